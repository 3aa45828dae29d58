/** Finding in the sheet and replacing: in the chosen cells where there are several, else in all of them. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { type Span, type Spot, compileFinder, edgesOf } from '@velvet-shelf/core/catalog';
import { useDeferredValue, useMemo, useState } from 'react';
import { Box } from '../../design/Box';
import { plural } from '../../design/words';
import { spotsOf } from './keys';

export function FindBar({
  rows,
  columns,
  first,
  span,
  textAt,
  onGo,
  onReplace,
  onClose,
}: {
  rows: number;
  columns: number;
  /** The first column that can be written in. */
  first: number;
  span: Span;
  textAt: (row: number, column: number) => string;
  onGo: (spot: Spot) => void;
  onReplace: (puts: { row: number; column: number; text: string }[], words: string) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [by, setBy] = useState('');
  const [isPattern, setPattern] = useState(false);
  const [matchCase, setMatchCase] = useState(false);
  const [whole, setWhole] = useState(false);
  const sought = useDeferredValue(text);
  const finder = useMemo(
    () => compileFinder({ text: sought, isPattern, matchCase, whole }),
    [sought, isPattern, matchCase, whole],
  );
  const { top, left, bottom, right } = edgesOf(span);
  const isInSpan = bottom > top || right > left;
  const where: Span = isInSpan ? span : { from: { row: 0, column: first }, to: { row: rows - 1, column: columns - 1 } };
  const found =
    finder.ok && sought !== ''
      ? [...spotsOf(where)].filter(({ row, column }) => column >= first && finder.finds(textAt(row, column)))
      : [];
  const next = () => {
    const after = found.find(({ row, column }) => row > top || (row === top && column > left)) ?? found[0];
    if (after) onGo(after);
  };
  const option = (label: string, is: boolean, change: (to: boolean) => void) => (
    <FormControlLabel control={<Checkbox size="small" checked={is} onChange={(_, to) => change(to)} />} label={label} />
  );
  return (
    <Box row wrap pad={[2, 5]} surface="band" line="top" role="search" aria-label="Find and replace">
      <TextField
        label="Find"
        value={text}
        autoFocus
        error={!finder.ok}
        helperText={finder.ok ? undefined : finder.reason}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') next();
          if (event.key === 'Escape') onClose();
        }}
      />
      <TextField label="Replace by" value={by} onChange={(event) => setBy(event.target.value)} />
      {option('Pattern', isPattern, setPattern)}
      {option('Case counts', matchCase, setMatchCase)}
      {option('Whole cell', whole, setWhole)}
      <Box as="span" small muted role="status">
        {sought === '' ? '' : `${plural(found.length, 'cell')} ${isInSpan ? 'of those chosen' : 'of all'}`}
      </Box>
      <Button variant="outlined" color="inherit" disabled={found.length === 0 || isInSpan} onClick={next}>
        Next
      </Button>
      <Button
        variant="outlined"
        disabled={found.length === 0}
        onClick={() =>
          finder.ok &&
          onReplace(
            found.map(({ row, column }) => ({ row, column, text: finder.replace(textAt(row, column), by) })),
            `Replaced “${text}” by “${by}”`,
          )
        }
      >
        Replace all
      </Button>
      <Button color="inherit" onClick={onClose}>
        Close
      </Button>
    </Box>
  );
}
