/**
 * Things laid out by two of their properties: a grid as ARIA has it, with one place in the order of Tab. Arrows move, Enter
 * opens, Space takes another to those chosen.
 */
import { type KeyboardEvent, type ReactNode, useRef, useState } from 'react';
import './rack.css';

export interface RackPlace {
  /** Of what stands there; undefined: nobody made it. */
  key: string | undefined;
  /** Its name, as it is read out. */
  name: string;
  isFaded?: boolean;
  content: ReactNode;
}

interface RackProps {
  label: string;
  down: readonly ReactNode[];
  across: readonly ReactNode[];
  places: readonly (readonly RackPlace[])[];
  chosen: ReadonlySet<string>;
  /** `isMove`: arrows came by it. */
  onChoose: (key: string, how: { add: boolean; isMove?: boolean }) => void;
  /** Enter, or a second click. */
  onOpen: (key: string) => void;
  onGap: (row: number, column: number) => void;
}

export function Rack({ label, down, across, places, chosen, onChoose, onOpen, onGap }: RackProps) {
  const [active, setActive] = useState({ row: 0, column: 0 });
  const grid = useRef<HTMLDivElement>(null);
  const at = {
    row: Math.min(active.row, down.length - 1),
    column: Math.min(active.column, across.length - 1),
  };
  const go = (row: number, column: number) => {
    const to = {
      row: Math.max(0, Math.min(down.length - 1, row)),
      column: Math.max(0, Math.min(across.length - 1, column)),
    };
    setActive(to);
    grid.current?.querySelector<HTMLElement>(`[data-place="${to.row} ${to.column}"]`)?.focus();
    const key = places[to.row]?.[to.column]?.key;
    if (key !== undefined && (to.row !== at.row || to.column !== at.column))
      onChoose(key, { add: false, isMove: true });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const { row, column } = at;
    const key = places[row]?.[column]?.key;
    const moves: Record<string, () => void> = {
      ArrowUp: () => go(row - 1, column),
      ArrowDown: () => go(row + 1, column),
      ArrowLeft: () => go(row, column - 1),
      ArrowRight: () => go(row, column + 1),
      Home: () => go(event.ctrlKey ? 0 : row, 0),
      End: () => go(event.ctrlKey ? down.length - 1 : row, across.length - 1),
      Enter: () => (key === undefined ? onGap(row, column) : onOpen(key)),
      ' ': () => (key === undefined ? onGap(row, column) : onChoose(key, { add: true })),
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    move();
  };
  return (
    <div
      ref={grid}
      className="rack"
      role="grid"
      aria-label={label}
      aria-multiselectable
      style={{ gridTemplateColumns: `minmax(48px, max-content) repeat(${across.length}, minmax(92px, 148px))` }}
    >
      <div role="row">
        <div role="columnheader">
          <span className="unseen">{label}</span>
        </div>
        {across.map((head, column) => (
          <div role="columnheader" key={column}>
            {head}
          </div>
        ))}
      </div>
      {down.map((head, row) => (
        <div role="row" key={row}>
          <div role="rowheader">{head}</div>
          {across.map((_, column) => {
            const place = places[row]?.[column];
            const { key, name, content, isFaded } = place ?? { key: undefined, name: '', content: null };
            return (
              <div
                role="gridcell"
                key={column}
                data-place={`${row} ${column}`}
                tabIndex={row === at.row && column === at.column ? 0 : -1}
                aria-label={name}
                aria-selected={key !== undefined && chosen.has(key)}
                onFocus={() => setActive({ row, column })}
                onKeyDown={onKeyDown}
                onClick={(event) => {
                  if (key === undefined) onGap(row, column);
                  else onChoose(key, { add: event.ctrlKey || event.metaKey });
                }}
                onDoubleClick={() => key !== undefined && onOpen(key)}
              >
                <div className={`stands${key === undefined ? ' gap' : ''}${isFaded ? ' faded' : ''}`}>{content}</div>
              </div>
            );
          })}
        </div>
      ))}
    </div>
  );
}
