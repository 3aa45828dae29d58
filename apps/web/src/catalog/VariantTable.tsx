/** Variants of a family before it is made: each with its number, price and pieces, or left out. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { plural } from '../design/words';

/** What somebody says of one otherwise than the form does. */
export interface Said {
  sku?: string;
  gtin?: string;
  price?: string;
  stock?: string;
  isOut?: boolean;
}

export interface Laid extends Required<Said> {
  id: string;
  /** On each option, in their order. */
  values: string[];
}

const fields = [
  ['sku', 'SKU', '34%'],
  ['gtin', 'GTIN', 150],
  ['price', 'Price', 90],
  ['stock', 'Pieces', 70],
] as const;

export function VariantTable({
  axes,
  rows,
  faults,
  onSay,
}: {
  axes: readonly string[];
  rows: readonly Laid[];
  faults: ReadonlyMap<string, Readonly<Record<string, string>>>;
  onSay: (id: string, to: Said) => void;
}) {
  const out = rows.filter(({ isOut }) => isOut).length;
  return (
    <Box>
      <Box row below={2}>
        <h2>{plural(rows.length - out, 'variant')}</h2>
        {out > 0 && <Box muted>{plural(out, 'combination')} left out</Box>}
      </Box>
      <DataTable
        label="Variants to make"
        look={{ surface: 'card' }}
        rows={rows}
        keyOf={({ id }) => id}
        rowLook={({ isOut }) => ({ faded: isOut })}
        columns={[
          ...axes.map((axis, i) => ({
            head: axis,
            id: `option ${i + 1}`,
            cell: ({ values }: Laid) => values[i],
          })),
          ...fields.map(([name, label, wide]) => ({
            head: label,
            id: name,
            look: { wide },
            cell: (row: Laid) => {
              const fault = faults.get(row.id)?.[name];
              return (
                <TextField
                  size="small"
                  variant="standard"
                  fullWidth
                  disabled={row.isOut}
                  value={row[name]}
                  error={fault !== undefined}
                  helperText={fault}
                  onChange={(event) => onSay(row.id, { [name]: event.target.value })}
                  slotProps={{ htmlInput: { 'aria-label': `${label} of ${row.values.join(', ')}` } }}
                />
              );
            },
          })),
          {
            head: '',
            id: 'leave out',
            cell: ({ id, values, isOut }: Laid) => (
              <Button
                color="inherit"
                aria-label={`${isOut ? 'Take back' : 'Leave out'} ${values.join(', ')}`}
                onClick={() => onSay(id, { isOut: !isOut })}
              >
                {isOut ? 'Take back' : 'Leave out'}
              </Button>
            ),
          },
        ]}
      />
    </Box>
  );
}
