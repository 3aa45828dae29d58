/** Only the cells that matter: the goods of a cause with the value to mend. */
import { Box } from '../design/Box';
import { useCompany } from '../company/company';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CauseDetail, Fix } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { DataTable } from '../design/DataTable';
import { count, plural } from '../design/words';

/** Cells shown at a time. */
const mostCells = 60;

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
  const set = (productId: number, text: string) => {
    const held = goods.find((row) => row.productId === productId)?.text ?? null;
    const next = { ...typed, [productId]: { text, over: typed[productId] ? typed[productId].over : held } };
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
  const long = remedy.type === 'richText' || remedy.attribute === 'title';
  const left = Math.max(cause.touched - cause.listings.length, 0) + Math.max(goods.length - mostCells, 0);
  const [home] = useCompany().languages;
  return (
    <>
      <DataTable
        label="What to mend"
        look={{ above: 2 }}
        rows={goods.slice(0, mostCells)}
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
                  {row.sku} · {row.finding}
                  {row.others > 0 && ` · ${plural(row.others, 'other cause')}`}
                </Box>
              </>
            ),
          },
          {
            head: `${remedy.label}${remedy.language && remedy.language !== home ? `, ${remedy.language}` : ''}`,
            headLook: { wide: '52%' },
            cell: (row) => (
              <TextField
                fullWidth
                select={remedy.choices !== null}
                multiline={remedy.choices === null && long}
                maxRows={4}
                value={typed[row.productId]?.text ?? row.text ?? ''}
                onChange={(event) => set(row.productId, event.target.value)}
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
