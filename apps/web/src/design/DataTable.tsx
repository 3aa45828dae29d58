/**
 * A table: columns by name, sorted by a click on a head, rows drawn only as far as they are in sight. Cells are the page's; rows,
 * heads, order and keys are this part's.
 */
import {
  type ColumnDef,
  createSortedRowModel,
  rowSortingFeature,
  sortFn_basic,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { Box, type Look } from './Box';

export interface Column<Row> {
  /** What it is headed with; nothing where its cells say it themselves, and `id` is read out. */
  head: ReactNode;
  /** Names it where the head is no text of its own. */
  id?: string;
  cell: (row: Row) => ReactNode;
  /** What its cells are sorted by, where a click on its head sorts; what has none comes last. */
  sortBy?: (row: Row) => number | string | null | undefined;
  /** How its cells look, and its head as far as that goes for heads. */
  look?: CellLook | ((row: Row) => CellLook | undefined) | undefined;
  headLook?: CellLook;
  /** Its cells name their rows. */
  isHead?: boolean;
}

/** How a cell looks, and what is said of it when one rests on it. */
export interface CellLook extends Look {
  className?: string;
  title?: string;
}

export interface TableProps<Row> {
  /** What it is a table of, for those who do not see it. */
  label: string;
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  keyOf: (row: Row) => string | number;
  /** A row is chosen by a click, or by Enter on it; `chosen` is the key of the one that is. */
  onChoose?: ((row: Row) => void) | undefined;
  chosen?: string | number | undefined;
  rowLook?: ((row: Row) => CellLook & { 'aria-current'?: true | undefined }) | undefined;
  /** What a row says instead of all its cells but the first. */
  instead?: ((row: Row) => ReactNode) | undefined;
  look?: Look;
  /** The kind of table, of those that the style sheets know. */
  className?: string;
  /** Without heads: a list in columns. */
  headless?: boolean;
}

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { basic: sortFn_basic },
});

/** A row as the table knows it: by its key, with what each column sorts it by. */
interface Entry {
  key: string;
  sort: (number | string | null)[];
}

/** From so many rows on, those out of sight are not drawn. */
const manyRows = 150;
/** Pixels of a row that has not been seen yet. */
const usualHeight = 33;

export function DataTable<Row extends object>(props: TableProps<Row>) {
  const { rows, columns, keyOf, label, look, headless, className = 'plain' } = props;
  // Pages make rows and columns anew with every look at them. The table is handed what it sorts by, and learns of it only where
  // that is another: handed something new each time, it would ask to be drawn again each time.
  const names = JSON.stringify(columns.map((column, i) => [nameOf(column, i), column.sortBy !== undefined]));
  const definitions = useMemo(
    () =>
      (JSON.parse(names) as [string, boolean][]).map(([id, enableSorting], i): ColumnDef<typeof features, Entry> => ({
        id,
        accessorFn: ({ sort }) => sort[i] ?? undefined,
        enableSorting,
        sortFn: 'basic',
        sortUndefined: 'last',
      })),
    [names],
  );
  const byKey = new Map(rows.map((row) => [String(keyOf(row)), row]));
  const print = JSON.stringify(
    [...byKey].map(([key, row]): Entry => ({ key, sort: columns.map(({ sortBy }) => sortBy?.(row) ?? null) })),
  );
  const data = useEntries(print);
  const table = useTable({
    features,
    data,
    columns: definitions,
    getRowId: ({ key }) => key,
    enableSortingRemoval: true,
  });
  const sorted = table.getRowModel().rows.flatMap(({ original }) => byKey.get(original.key) ?? []);
  const body = useRef<HTMLTableSectionElement>(null);
  return (
    <Box as="table" className={className} aria-label={label} {...look}>
      {!headless && (
        <thead>
          <tr>
            {(table.getHeaderGroups()[0]?.headers ?? []).map((header, i) => {
              const { head, headLook, look: cellLook } = columns[i] ?? { head: '' };
              const order = header.column.getIsSorted();
              return (
                <Box
                  as="th"
                  key={header.id}
                  num={typeof cellLook === 'object' && cellLook.num}
                  {...headLook}
                  aria-sort={order === 'asc' ? 'ascending' : order === 'desc' ? 'descending' : undefined}
                >
                  {header.column.getCanSort() ? (
                    <button type="button" className="head" onClick={header.column.getToggleSortingHandler()}>
                      {head}
                      <span aria-hidden="true">{order === 'asc' ? ' ↑' : order === 'desc' ? ' ↓' : ''}</span>
                    </button>
                  ) : head === '' ? (
                    <span className="unseen">{header.id}</span>
                  ) : (
                    head
                  )}
                </Box>
              );
            })}
          </tr>
        </thead>
      )}
      <tbody ref={body} onKeyDown={props.onChoose ? moveAmong : undefined}>
        {sorted.length >= manyRows ? (
          <InSight {...props} sorted={sorted} body={body} />
        ) : (
          sorted.map((row, i) => <Cells key={keyOf(row)} {...props} row={row} index={i} />)
        )}
      </tbody>
    </Box>
  );
}

/** The same entries as long as they say the same. */
const useEntries = (print: string): Entry[] => useMemo(() => JSON.parse(print) as Entry[], [print]);

type RowOf<Row> = TableProps<Row> & { row: Row; index: number; measure?: (element: Element | null) => void };

function Cells<Row>({ row, index, columns, keyOf, onChoose, chosen, rowLook, instead, measure }: RowOf<Row>) {
  const said = instead?.(row);
  const shown = said ? columns.slice(0, 1) : columns;
  const isChosen = chosen !== undefined && keyOf(row) === chosen;
  return (
    <Box
      as="tr"
      ref={measure}
      data-index={index}
      {...rowLook?.(row)}
      {...(onChoose ? { choosable: true, chosen: isChosen, onClick: () => onChoose(row) } : {})}
      {...(isChosen ? { 'aria-current': true } : {})}
    >
      {shown.map((column, i) => (
        <Box
          as={column.isHead ? 'th' : 'td'}
          {...(column.isHead ? { scope: 'row' } : {})}
          key={nameOf(column, i)}
          {...lookOf(column.look, row)}
        >
          {column.cell(row)}
        </Box>
      ))}
      {said && <td colSpan={columns.length - 1}>{said}</td>}
    </Box>
  );
}

const nameOf = <Row,>({ id, head }: Column<Row>, i: number): string =>
  id ?? (typeof head === 'string' && head !== '' ? head : `column ${i}`);

const lookOf = <Row,>(look: Column<Row>['look'], row: Row): CellLook | undefined =>
  typeof look === 'function' ? look(row) : look;

/** Rows in sight of the nearest part that scrolls, between two that are as high as all those before and after. */
function InSight<Row>({
  sorted,
  body,
  ...props
}: TableProps<Row> & { sorted: readonly Row[]; body: React.RefObject<HTMLTableSectionElement | null> }) {
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  const [margin, setMargin] = useState(0);
  // Not in the layout: the body around this is known a moment later.
  useEffect(() => {
    const found = body.current?.closest<HTMLElement>('.scroll') ?? null;
    setScroller(found);
    if (found && body.current)
      setMargin(body.current.getBoundingClientRect().top - found.getBoundingClientRect().top + found.scrollTop);
  }, [body]);
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => scroller,
    estimateSize: () => usualHeight,
    getItemKey: (i) => props.keyOf(sorted[i] as Row),
    scrollMargin: margin,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const above = (items[0]?.start ?? margin) - margin;
  const below = virtual.getTotalSize() - ((items.at(-1)?.end ?? margin) - margin);
  return (
    <>
      {above > 0 && <Gap high={above} />}
      {items.map(({ index, key }) => {
        const row = sorted[index];
        return row === undefined ? null : (
          <Cells key={key} {...props} row={row} index={index} measure={virtual.measureElement} />
        );
      })}
      {below > 0 && <Gap high={below} />}
    </>
  );
}

const Gap = ({ high }: { high: number }) => (
  <tr aria-hidden="true">
    <td style={{ height: high, padding: 0, border: 0 }} />
  </tr>
);

/** Up and down go from row to row: to the first thing in it that takes the focus. */
function moveAmong(event: KeyboardEvent<HTMLTableSectionElement>): void {
  if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
  const target = event.target as HTMLElement;
  if (target.closest('input, textarea, select, [contenteditable]')) return;
  const row = target.closest('tr');
  const next = event.key === 'ArrowDown' ? row?.nextElementSibling : row?.previousElementSibling;
  const focusable = next?.querySelector<HTMLElement>('button, a');
  if (!focusable) return;
  event.preventDefault();
  focusable.focus();
  focusable.scrollIntoView({ block: 'nearest' });
}
