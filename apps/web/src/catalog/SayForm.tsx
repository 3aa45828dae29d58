/** Gives many goods one value, tried before it is saved. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type Chosen, type SheetColumn, api } from '@velvet-shelf/contract';
import { identifyingRoles, readTyped } from '@velvet-shelf/core/values';
import { type KeyboardEvent, useMemo, useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { useSettled } from '../design/settled';
import { plural, sayBecoming } from '../design/words';
import { attributeOf, choicesOf, headOf } from './sheet/columns';

export function SayForm({
  chosen,
  onDone,
  onCancel,
}: {
  chosen: Chosen;
  onDone: (words: string) => void;
  onCancel: () => void;
}) {
  const columns = useQuery({ ...ask(api.sheet.columns), staleTime: 300_000 });
  const [column, setColumn] = useState<SheetColumn | null>(null);
  const [text, setText] = useState('');
  const offered = (columns.data?.items ?? []).filter(
    ({ read }) => read !== null && !(read.role && identifyingRoles.has(read.role)),
  );
  const attribute = column ? attributeOf(column) : undefined;
  const typed = attribute && text !== '' ? readTyped(text, attribute) : undefined;
  const fault = typed && 'reason' in typed ? typed.reason : undefined;
  const body = useMemo(
    () =>
      column && {
        ...{ chosen, attribute: column.attribute, language: column.language },
        text: text.trim() === '' ? null : text,
      },
    [chosen, column, text],
  );
  const settled = useSettled(body);
  const tried = useQuery({
    ...ask(api.bulk.trySay, settled ? { body: settled } : {}),
    enabled: settled !== null && settled.text !== null && fault === undefined,
    retry: false,
    gcTime: 0,
  });
  const save = useMutation({
    mutationFn: () => call(api.bulk.say, body ? { body } : {}),
    onSuccess: ({ goods, ...effect }) => onDone(`${plural(goods, 'product')} set; ${sayBecoming(effect, true)}`),
  });
  const effect = settled === body ? tried.data : undefined;
  const choices = column ? choicesOf(column) : undefined;
  return (
    <Box
      as="form"
      above={2}
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
      onKeyDown={(event: KeyboardEvent) => event.key === 'Escape' && onCancel()}
    >
      <Box row wrap align="start" gap={[2, 3]}>
        <Autocomplete
          autoHighlight
          size="small"
          options={offered}
          getOptionKey={({ slot }) => slot}
          getOptionLabel={headOf}
          value={column}
          onChange={(_, to) => {
            setColumn(to);
            setText('');
          }}
          sx={{ width: 220 }}
          renderInput={(params) => <TextField {...params} label="Attribute" autoFocus />}
        />
        <Autocomplete
          freeSolo
          autoHighlight={choices !== undefined}
          size="small"
          options={choices ?? []}
          inputValue={text}
          onInputChange={(_, to) => setText(to)}
          sx={{ width: 260 }}
          renderInput={(params) => (
            <TextField
              {...params}
              label="Value"
              error={fault !== undefined}
              helperText={fault ?? 'Empty: none, on purpose'}
            />
          )}
        />
        <Button type="submit" variant="contained" disabled={!column || fault !== undefined || save.isPending}>
          Give it to all
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
        <Box small role="status" alignSelf="center">
          {effect &&
            `${plural(effect.goods, 'product')}, ${effect.others} of them with another value now; ${sayBecoming(effect)}${effect.whole ? '' : ', of those that could be tried'}`}
        </Box>
      </Box>
      {tried.error && settled?.text !== null && <ProblemBox error={tried.error} />}
      {save.error && <ProblemBox error={save.error} title="Nothing was set" />}
    </Box>
  );
}
