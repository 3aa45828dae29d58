/** Of what goods name by a file's name: all that is here, what nothing names, what has not come. */
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { Link } from 'react-router';
import { DataTable } from '../design/DataTable';
import { Empty } from '../design/feedback';
import { count, plural } from '../design/words';

export const whichShown = ['all', 'unused', 'missing'] as const;
export type Which = (typeof whichShown)[number];

const words: Record<Which, string> = { all: 'All', unused: 'Named by nothing', missing: 'Not come yet' };

export function WhichToggle({
  label,
  which,
  counts,
  onWhich,
}: {
  label: string;
  which: Which;
  /** Undefined until they are counted. */
  counts: Partial<Record<Which, number | undefined>> | undefined;
  onWhich: (which: Which) => void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={which}
      aria-label={label}
      sx={{ my: 2 }}
      onChange={(_, to: Which | null) => to && onWhich(to)}
    >
      {whichShown.map((each) => {
        const n = counts?.[each];
        return (
          <ToggleButton key={each} value={each} sx={{ py: 0.3 }}>
            {words[each]} {n !== undefined && count(n)}
          </ToggleButton>
        );
      })}
    </ToggleButtonGroup>
  );
}

/** Named by goods, and not here: sent in under its name it is there for all who name it. */
export function NotCome({
  what,
  items,
}: {
  /** What one of them is called: “picture”. */
  what: string;
  items: readonly { name: string; goods: number; product: number }[];
}) {
  const head = `${what.slice(0, 1).toUpperCase()}${what.slice(1)}`;
  return items.length === 0 ? (
    <Empty title="All have come">Every {what} that goods name is here.</Empty>
  ) : (
    <DataTable
      label={`${head}s that have not come`}
      look={{ surface: 'card' }}
      rows={items}
      keyOf={({ name }) => name}
      columns={[
        { head, cell: ({ name }) => name },
        {
          head: 'Named by',
          cell: ({ goods, product }) => <Link to={`/catalog/product/${product}`}>{plural(goods, 'product')}</Link>,
        },
      ]}
    />
  );
}
