/** The first rows of a file as they will become, with the cells that give nothing marked. */
import { Box } from '../design/Box';
import { useQuery } from '@tanstack/react-query';
import { type AttributeAnswer, type BatchAnswer, api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { type Column, DataTable } from '../design/DataTable';
import { signOf } from './notes';

interface Shown {
  label: string;
  /** Entries of the map that feed it. */
  entries: number[];
  columns: string[];
}

/** What the file feeds, each thing once, however many columns feed it. */
function thingsOf(batch: BatchAnswer, attributes: AttributeAnswer[]): Shown[] {
  const things = new Map<string, Shown>();
  batch.map.forEach(({ column, target }, i) => {
    if (target.to === 'ignore') return;
    const label = labelOf(target, attributes);
    const thing = things.get(label) ?? { label, entries: [], columns: [] };
    things.set(label, thing);
    thing.entries.push(i);
    thing.columns.push(column);
  });
  return [...things.values()];
}

export function FirstRows({ batch }: { batch: BatchAnswer }) {
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const things = thingsOf(batch, attributes.data?.items ?? []);
  return (
    <Box scroll grow pad={[2.5, 6, 6]} role="region" aria-label="First rows" tabIndex={0}>
      <Box as="p" small muted around={[0, 0, 1.5]}>
        The first {batch.sample.length} rows. ✕ a cell that gives no value, ≈ one that was repaired, ! one taken as it
        is written and to be looked at: point at it for the reason.
      </Box>
      <DataTable
        label="First rows"
        className="plain dense"
        look={{ surface: 'card' }}
        rows={batch.sample}
        keyOf={({ row }) => row}
        instead={({ refused }) => refused.length > 0 && <Box tone="blocked">✕ {refused.join('; ')}</Box>}
        columns={[
          { head: 'Row', cell: ({ place, row }) => place ?? row, look: { muted: true, oneLine: true } },
          ...things.map((thing) => thingColumn(thing, batch)),
        ]}
      />
    </Box>
  );
}

type SampleRow = BatchAnswer['sample'][number];

/** One thing the file feeds: its value, or the cell that gives none. */
function thingColumn({ label, entries, columns }: Shown, batch: BatchAnswer): Column<SampleRow> {
  const seen = (row: SampleRow) => {
    const cells = entries.flatMap((i) => row.becomes[i] ?? []);
    const text = cells.find((cell) => cell.text !== '')?.text;
    const raw = columns.map((column) => row.cells[batch.columns.indexOf(column)] ?? '').filter(Boolean);
    const isLost = text === undefined && cells.some((cell) => cell.lost);
    return { text, raw, isLost, noted: cells.find((cell) => cell.note) };
  };
  return {
    id: label,
    headLook: { cut: true, oneLine: true, maxWide: 190, title: columns.join(', ') },
    head: (
      <>
        {label}
        <Box cut muted plainWeight>
          {columns.join(', ')}
        </Box>
      </>
    ),
    look: (row) => {
      const { noted, raw, isLost } = seen(row);
      return {
        cut: true,
        maxWide: 190,
        title: noted?.note ?? raw.join(' · '),
        ...(isLost ? { tone: 'blocked', surface: 'blocked' } : {}),
      };
    },
    cell: (row) => {
      const { text, raw, isLost, noted } = seen(row);
      return (
        <>
          {isLost ? `✕ ${raw[0] ?? ''}` : text}
          {noted && !isLost && (
            <Box as="span" tone="advice">
              {' '}
              {signOf(noted)}
            </Box>
          )}
        </>
      );
    },
  };
}

function labelOf(target: BatchAnswer['map'][number]['target'], attributes: AttributeAnswer[]): string {
  switch (target.to) {
    case 'attribute':
      return `${attributes.find((attribute) => attribute.key === target.attribute)?.label ?? target.attribute}${target.language ? `, ${target.language}` : ''}`;
    case 'price':
      return `${target.kind === 'sale' ? 'Sale price' : 'Price'} ${target.currency}`;
    case 'key':
      return 'Article number';
    case 'boughtFrom':
      return 'Bought from';
    case 'theirNumber':
      return 'Their number';
    case 'saleFrom':
      return 'Sale starts';
    case 'saleTo':
      return 'Sale ends';
    default:
      return target.to.charAt(0).toUpperCase() + target.to.slice(1);
  }
}
