/** Only the cells that matter: the goods of a cause with the value to mend. */
import { Box } from '../design/Box';
import { useCompany } from '../company/company';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CauseDetail, Fix } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { DataTable } from '../design/DataTable';
import { Thumb } from '../design/Thumb';
import { count, plural } from '../design/words';
import { PictureFile, PicturesByName } from './PictureCells';

/** Cells shown at a time. */
const mostCells = 60;

type Row = CauseDetail['listings'][number];
type Cell = Extract<Fix, { kind: 'cells' }>['cells'][number];

export function Cells({
  cause,
  remedy,
  onChange,
}: {
  cause: CauseDetail;
  remedy: Extract<CauseDetail['remedy'], { kind: 'cells' }>;
  onChange: (cells: Cell[]) => void;
}) {
  /** By product, what was typed, and over what: a change by somebody else meanwhile is not written over unseen. */
  const [typed, setTyped] = useState<Record<number, { text: string; over: string | null }>>({});
  const goods = [...new Map(cause.listings.map((listing) => [listing.productId, listing])).values()];
  const setAll = (texts: ReadonlyMap<number, string>) => {
    const next = { ...typed };
    for (const [productId, text] of texts) {
      const held = goods.find((row) => row.productId === productId)?.text ?? null;
      next[productId] = { text, over: typed[productId] ? typed[productId].over : held };
    }
    setTyped(next);
    onChange(
      goods.flatMap((row) => {
        const cell = next[row.productId];
        return cell && cell.text !== (row.text ?? '')
          ? [{ productId: row.productId, text: cell.text, madeAgainst: cell.over }]
          : [];
      }),
    );
  };
  const shown = goods.slice(0, mostCells);
  const textOf = (row: Row) => typed[row.productId]?.text ?? row.text ?? '';
  /** From a row on, one text after the other: a column out of a spreadsheet, or one text in all of them. */
  const putFrom = (at: number, texts: readonly string[]) =>
    setAll(new Map(shown.slice(at, at + texts.length).map((row, i) => [row.productId, texts[i] ?? ''])));
  const long = remedy.type === 'richText' || remedy.attribute === 'title';
  const left = Math.max(cause.touched - cause.listings.length, 0) + Math.max(goods.length - mostCells, 0);
  const [home] = useCompany().languages;
  const isPictures = remedy.type === 'media';
  /** New ones stand before those there are, or in place of the one there is. */
  const withPictures = (row: Row, names: readonly string[]): ReadonlyMap<number, string> =>
    new Map(
      names.length === 0
        ? []
        : [[row.productId, [...names, ...(remedy.many && textOf(row) !== '' ? [textOf(row)] : [])].join(', ')]],
    );
  return (
    <>
      {isPictures && (
        <PicturesByName
          onPlaced={(placed) =>
            setAll(new Map(goods.flatMap((row) => [...withPictures(row, placed.get(row.productId) ?? [])])))
          }
        />
      )}
      {shown.length > 1 && (
        <Pattern
          choices={remedy.choices !== null}
          label={remedy.label}
          onFill={(pattern) =>
            setAll(
              new Map(
                shown.flatMap((row) => (textOf(row).trim() === '' ? [[row.productId, written(pattern, row)]] : [])),
              ),
            )
          }
        />
      )}
      <DataTable
        label="What to mend"
        look={{ above: 2 }}
        rows={shown}
        keyOf={({ productId }) => productId}
        columns={[
          {
            head: 'Product',
            look: { maxWide: 250 },
            cell: (row) => (
              <>
                <Box cut>
                  <Link to={`/catalog?open=${row.productId}`} className="plain">
                    {row.title ?? row.sku}
                  </Link>
                </Box>
                <Box cut small muted>
                  {[row.sku, row.finding, row.others > 0 && plural(row.others, 'other cause')]
                    .filter(Boolean)
                    .join(' · ')}
                </Box>
              </>
            ),
          },
          {
            head: `${remedy.label}${remedy.language && remedy.language !== home ? `, ${remedy.language}` : ''}`,
            headLook: { wide: '52%' },
            cell: (row) => (
              <Box row>
                {isPictures && textOf(row) !== '' && <Thumb name={textOf(row).split(', ')[0] ?? ''} size={36} />}
                <TextField
                  fullWidth
                  select={remedy.choices !== null}
                  multiline={remedy.choices === null && long}
                  maxRows={4}
                  value={textOf(row)}
                  onChange={(event) => setAll(new Map([[row.productId, event.target.value]]))}
                  onPaste={(event) => {
                    const lines = event.clipboardData
                      .getData('text')
                      .replace(/\r?\n$/, '')
                      .split(/\r?\n/);
                    if (lines.length < 2) return;
                    event.preventDefault();
                    putFrom(
                      shown.indexOf(row),
                      lines.map((line) => line.split('\t')[0] ?? ''),
                    );
                  }}
                  onKeyDown={(event) => {
                    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'd') return;
                    event.preventDefault();
                    const at = shown.indexOf(row);
                    putFrom(
                      at,
                      shown.slice(at).map(() => textOf(row)),
                    );
                  }}
                  slotProps={{
                    htmlInput: { 'aria-label': `${remedy.label} of ${row.sku ?? row.title ?? 'this product'}` },
                  }}
                >
                  {remedy.choices?.map(({ key, name }) => (
                    <MenuItem key={key} value={name}>
                      {name}
                    </MenuItem>
                  ))}
                </TextField>
                {isPictures && (
                  <PictureFile
                    of={row.sku ?? row.title ?? 'this product'}
                    onCame={(name) => setAll(withPictures(row, [name]))}
                  />
                )}
              </Box>
            ),
          },
        ]}
      />
      {left > 0 && (
        <Box as="p" muted>
          These are the first {count(Math.min(goods.length, mostCells))} of {plural(cause.touched, 'listing')}. Save
          them, and the next come up; or{' '}
          <Link to={`/listings?cause=${encodeURIComponent(cause.key)}`}>see all of them</Link>.
        </Box>
      )}
    </>
  );
}

/** A pattern with what the goods say of themselves in it: “https://files.example/{SKU}.jpg”. */
const written = (pattern: string, { sku, title }: Row): string =>
  pattern.replace(/\{sku\}/gi, sku ?? '').replace(/\{title\}/gi, title ?? '');

function Pattern({ choices, label, onFill }: { choices: boolean; label: string; onFill: (pattern: string) => void }) {
  const [pattern, setPattern] = useState('');
  return (
    <Box row above={2} align="start">
      <TextField
        label={`${label} of all that have none`}
        value={pattern}
        onChange={(event) => setPattern(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || pattern.trim() === '') return;
          event.preventDefault();
          onFill(pattern);
        }}
        helperText={
          choices
            ? 'The name of a value; a column can be pasted into the first cell, Ctrl+D fills down from a cell'
            : '{SKU} and {title} stand for those of each; a column can be pasted into the first cell, Ctrl+D fills down'
        }
        sx={{ flex: 1 }}
      />
      <Button variant="outlined" disabled={pattern.trim() === ''} onClick={() => onFill(pattern)}>
        Fill
      </Button>
    </Box>
  );
}
