/**
 * Cells in rows and columns of which only those in sight are there: a grid as ARIA has it, with one active cell, a span of chosen
 * ones, and columns that stay at the left. What keys do is its owner’s matter.
 */
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type ClipboardEvent,
  type KeyboardEvent,
  type MouseEvent,
  type ReactNode,
  memo,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
} from 'react';
import './cell-grid.css';

export interface CellColumn {
  key: string;
  head: string;
  wide: number;
  /** Stays at the left. Those that do come first. */
  frozen?: boolean;
  numeric?: boolean;
}

export interface CellLook {
  text: string;
  /** Written and not saved; cannot be saved; held by somebody else now; follows what stands above it; stands before what it would follow. */
  tones?: readonly ('changed' | 'bad' | 'moved' | 'leaning' | 'pinned' | 'fixed' | 'strong')[];
  /** Said of a cell that cannot be saved. */
  fault?: string | undefined;
}

interface Spot {
  row: number;
  column: number;
}

interface Edges {
  top: number;
  left: number;
  bottom: number;
  right: number;
}

const rowHigh = 27;
const headHigh = 29;

export function CellGrid({
  label,
  rows,
  columns,
  look,
  active,
  inSight,
  chosen,
  onChoose,
  onOpen,
  onFill,
  reachOf,
  onKeyDown,
  onCopy,
  onCut,
  onPaste,
  editor,
}: {
  label: string;
  rows: number;
  columns: readonly CellColumn[];
  look: (row: number, column: number) => CellLook;
  active: Spot;
  /** The cell to keep in sight: the far end of what is chosen. */
  inSight: Spot;
  chosen: Edges;
  /** A cell was pointed at; `extends` what is chosen up to it. */
  onChoose: (spot: Spot, how: { extends: boolean }) => void;
  onOpen: () => void;
  /** The corner of what is chosen was dragged to a cell, and let go there. */
  onFill: (to: Spot) => void;
  /** What is filled then, shown while it is dragged. */
  reachOf: (to: Spot) => Edges;
  onKeyDown: (event: KeyboardEvent) => void;
  onCopy: (event: ClipboardEvent) => void;
  onCut: (event: ClipboardEvent) => void;
  onPaste: (event: ClipboardEvent) => void;
  /** Stands in the active cell while it is written in. */
  editor: ReactNode;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const id = useId();
  const still = columns.filter((column) => column.frozen);
  const moving = columns.slice(still.length);
  const stillWide = still.reduce((sum, column) => sum + column.wide, 0);
  const down = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHigh,
    overscan: 8,
    scrollPaddingStart: headHigh,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: moving.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => moving[i]?.wide ?? 0,
    overscan: 2,
    scrollPaddingStart: stillWide,
  });
  const widths = moving.map(({ wide }) => wide).join();
  useEffect(() => across.measure(), [across, widths]);
  useEffect(() => {
    down.scrollToIndex(inSight.row, { align: 'auto' });
    if (inSight.column >= still.length) across.scrollToIndex(inSight.column - still.length, { align: 'auto' });
  }, [down, across, inSight.row, inSight.column, still.length]);
  const isEditing = editor !== null;
  useEffect(() => {
    // What was written in is gone, and the focus with it: keys go on here, unless somebody has gone elsewhere.
    if (!isEditing && document.activeElement === document.body) scroller.current?.focus({ preventScroll: true });
  }, [isEditing]);
  const seen = across.getVirtualItems();
  const before = seen[0]?.start ?? 0;
  const [firstSeen, lastSeen] = [seen[0]?.index ?? 0, seen.at(-1)?.index ?? -1];
  const shown = useMemo((): ShownColumn[] => {
    const count = columns.filter((column) => column.frozen).length;
    const kept = columns.slice(0, count);
    const inSeen = columns.slice(count + firstSeen, count + lastSeen + 1);
    return [
      ...kept.map((column, i) => ({ column, at: i, left: kept.slice(0, i).reduce((sum, one) => sum + one.wide, 0) })),
      ...inSeen.map((column, i) => ({ column, at: count + firstSeen + i, left: undefined })),
    ];
  }, [columns, firstSeen, lastSeen]);
  /** Where the corner of what is chosen is dragged to. */
  const [dragged, setDragged] = useState<Spot>();
  const over = dragged ? reachOf(dragged) : chosen;
  useEffect(() => {
    if (!dragged) return;
    const letGo = () => {
      setDragged(undefined);
      onFill(dragged);
    };
    window.addEventListener('mouseup', letGo);
    return () => window.removeEventListener('mouseup', letGo);
  }, [dragged, onFill]);
  const spotOf = (event: MouseEvent): Spot | undefined => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    return cell ? { row: Number(cell.dataset.row), column: Number(cell.dataset.column) } : undefined;
  };
  const cellId = ({ row, column }: Spot) => `${id}-${row}-${column}`;
  const whole = stillWide + across.getTotalSize();
  const rowsSeen = down.getVirtualItems();
  const isActiveSeen =
    rowsSeen.some(({ index }) => index === active.row) && shown.some(({ at }) => at === active.column);
  return (
    <div
      ref={scroller}
      className="cells"
      role="grid"
      aria-label={label}
      aria-rowcount={rows + 1}
      aria-colcount={columns.length}
      aria-multiselectable="true"
      aria-activedescendant={isActiveSeen ? cellId(active) : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onCopy={onCopy}
      onCut={onCut}
      onPaste={onPaste}
    >
      <div className="cells-head" role="row" aria-rowindex={1} style={{ width: whole, height: headHigh }}>
        {shown.map(({ column, at, left }, i) => (
          <span
            key={column.key}
            role="columnheader"
            aria-colindex={at + 1}
            title={column.head}
            className={left === undefined ? 'cell' : 'cell still'}
            style={{ width: column.wide, left, marginLeft: i === still.length ? before : undefined }}
          >
            {column.head}
          </span>
        ))}
      </div>
      <div
        role="rowgroup"
        style={{ height: down.getTotalSize(), width: whole, position: 'relative' }}
        onMouseDown={(event) => {
          const spot = spotOf(event);
          if (!spot || event.button !== 0) return;
          if ((event.target as HTMLElement).dataset.corner !== undefined) {
            // Not a text marked meanwhile.
            event.preventDefault();
            setDragged(spot);
          } else onChoose(spot, { extends: event.shiftKey });
        }}
        onMouseMove={(event) => {
          const over = dragged && spotOf(event);
          if (over && (over.row !== dragged.row || over.column !== dragged.column)) setDragged(over);
          if (dragged) return;
          const spot = event.buttons === 1 && editor === null ? spotOf(event) : undefined;
          if (spot && (spot.row !== inSight.row || spot.column !== inSight.column)) onChoose(spot, { extends: true });
        }}
        onDoubleClick={onOpen}
      >
        {rowsSeen.map(({ index: row, start }) => {
          const isChosen = row >= over.top && row <= over.bottom;
          return (
            <CellRow
              key={row}
              id={id}
              row={row}
              start={start}
              wide={whole}
              shown={shown}
              still={still.length}
              before={before}
              look={look}
              active={row === active.row ? active.column : undefined}
              from={isChosen ? over.left : undefined}
              to={isChosen ? over.right : undefined}
              corner={row === chosen.bottom && !isEditing && chosen.right >= still.length ? chosen.right : undefined}
              editor={row === active.row ? editor : null}
            />
          );
        })}
      </div>
    </div>
  );
}

interface ShownColumn {
  column: CellColumn;
  at: number;
  left: number | undefined;
}

/** One row: drawn again only where something of it is another, so that scrolling draws new rows and no old ones. */
const CellRow = memo(function CellRow({
  id,
  row,
  start,
  wide,
  shown,
  still,
  before,
  look,
  active,
  from,
  to,
  corner,
  editor,
}: {
  id: string;
  row: number;
  start: number;
  wide: number;
  shown: readonly ShownColumn[];
  still: number;
  /** Pixels of columns out of sight before the first that moves. */
  before: number;
  look: (row: number, column: number) => CellLook;
  /** Columns of the active cell and of those chosen, where they are in this row. */
  active: number | undefined;
  from: number | undefined;
  to: number | undefined;
  /** Column of the cell at whose corner what is chosen is dragged, where it is in this row. */
  corner: number | undefined;
  editor: ReactNode;
}) {
  return (
    <div
      role="row"
      aria-rowindex={row + 2}
      className="cells-row"
      style={{ transform: `translateY(${start}px)`, width: wide, height: rowHigh }}
    >
      {shown.map(({ column, at, left }, i) => {
        const { text, tones = [], fault } = look(row, at);
        const isActive = at === active;
        const isChosen = from !== undefined && to !== undefined && at >= from && at <= to;
        return (
          <span
            key={column.key}
            id={`${id}-${row}-${at}`}
            role="gridcell"
            aria-colindex={at + 1}
            aria-selected={isChosen}
            aria-invalid={fault === undefined ? undefined : true}
            data-row={row}
            data-column={at}
            title={fault ?? (text.length > column.wide / 8 ? text.slice(0, 600) : undefined)}
            className={[
              'cell',
              ...tones,
              ...(left === undefined ? [] : ['still']),
              ...(column.numeric ? ['num'] : []),
              ...(isChosen ? ['chosen'] : []),
              ...(isActive ? ['active'] : []),
            ].join(' ')}
            style={{ width: column.wide, left, marginLeft: i === still ? before : undefined }}
          >
            {isActive && editor !== null ? editor : text}
            {at === corner && <span className="cell-corner" data-corner="" aria-hidden="true" />}
          </span>
        );
      })}
    </div>
  );
});
