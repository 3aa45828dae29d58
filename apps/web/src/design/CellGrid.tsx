/**
 * Cells in rows and columns of which only those in sight are there: a grid as ARIA has it, with one active cell, a span of chosen
 * ones, and columns that stay at the left. What keys do is its owner’s matter.
 */
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ClipboardEvent, type KeyboardEvent, type MouseEvent, type ReactNode, useEffect, useId, useRef } from 'react';
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
  /** Written and not saved; cannot be saved; held by somebody else now; follows what stands above it. */
  tones?: readonly ('changed' | 'bad' | 'moved' | 'leaning' | 'fixed' | 'strong')[];
  /** Said of a cell that cannot be saved. */
  fault?: string | undefined;
}

interface Spot {
  row: number;
  column: number;
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
  chosen: { top: number; left: number; bottom: number; right: number };
  /** A cell was pointed at; `extends` what is chosen up to it. */
  onChoose: (spot: Spot, how: { extends: boolean }) => void;
  onOpen: () => void;
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
  const shown = [
    ...still.map((column, i) => ({ column, at: i, left: still.slice(0, i).reduce((sum, one) => sum + one.wide, 0) })),
    ...seen.flatMap(({ index }) => {
      const column = moving[index];
      return column ? [{ column, at: index + still.length, left: undefined }] : [];
    }),
  ];
  const spotOf = (event: MouseEvent): Spot | undefined => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    return cell ? { row: Number(cell.dataset.row), column: Number(cell.dataset.column) } : undefined;
  };
  const cellId = ({ row, column }: Spot) => `${id}-${row}-${column}`;
  const whole = stillWide + across.getTotalSize();
  return (
    <div
      ref={scroller}
      className="cells"
      role="grid"
      aria-label={label}
      aria-rowcount={rows + 1}
      aria-colcount={columns.length}
      aria-multiselectable="true"
      aria-activedescendant={cellId(active)}
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
          if (spot && event.button === 0) onChoose(spot, { extends: event.shiftKey });
        }}
        onMouseMove={(event) => {
          const spot = event.buttons === 1 && editor === null ? spotOf(event) : undefined;
          if (spot && (spot.row !== inSight.row || spot.column !== inSight.column)) onChoose(spot, { extends: true });
        }}
        onDoubleClick={onOpen}
      >
        {down.getVirtualItems().map(({ index: row, start }) => (
          <div
            key={row}
            role="row"
            aria-rowindex={row + 2}
            className="cells-row"
            style={{ transform: `translateY(${start}px)`, width: whole, height: rowHigh }}
          >
            {shown.map(({ column, at, left }, i) => {
              const { text, tones = [], fault } = look(row, at);
              const isActive = row === active.row && at === active.column;
              const isChosen = row >= chosen.top && row <= chosen.bottom && at >= chosen.left && at <= chosen.right;
              return (
                <span
                  key={column.key}
                  id={cellId({ row, column: at })}
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
                  style={{ width: column.wide, left, marginLeft: i === still.length ? before : undefined }}
                >
                  {isActive && editor !== null ? editor : text}
                </span>
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
}
