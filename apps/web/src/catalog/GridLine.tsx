/** One row of the grid, and how its columns stand. */
import { type GridRow } from '@velvet-shelf/contract';
import { type ReactNode, memo } from 'react';
import { Box } from '../design/Box';
import { Meter } from '../design/Meter';
import { State } from '../design/State';
import { Thumb } from '../design/Thumb';
import { WindowCell, WindowRow } from '../design/Windowed';
import { count, money, plural } from '../design/words';
import type { Column } from './columns';
import { statesOf } from './listed';

/** Pixels. */
export const checkWidth = 30;
const productWidth = 330;

/** How the columns stand: those that stay in sight each at its distance from the edge, and what stands before them with them. */
export function layOutColumns(columns: readonly Column[]) {
  const lefts = new Map<string, number>();
  let left = checkWidth + productWidth;
  for (const { key, width, isFrozen } of columns) {
    if (isFrozen) lefts.set(key, left);
    left += width;
  }
  const product = lefts.size > 0 ? `${productWidth}px` : `minmax(${productWidth}px, 1fr)`;
  return {
    template: `${checkWidth}px ${product} ${columns.map(({ width }) => `${width}px`).join(' ')}`,
    least: left,
    lefts,
  };
}

interface LineProps {
  index: number;
  /** Null where the goods have gone, undefined until they have come. */
  row: GridRow | null | undefined;
  /** Pixels from the top of all rows. */
  at: number;
  columns: readonly Column[];
  layout: ReturnType<typeof layOutColumns>;
  isFrozen: boolean;
  currency: string | undefined;
  isFlat: boolean;
  isOpen: boolean;
  isChosen: boolean;
  isDecided: boolean;
  onOpen: (id: number) => void;
  onChoose: (index: number, to: boolean, isSpan: boolean) => void;
}

/** A row, made again only where something of it has changed: scrolling moves many. */
export const Line = memo(function Line({ index, row, at, columns, layout, isFrozen, ...rest }: LineProps) {
  const { currency, isFlat, isOpen, isChosen, isDecided, onOpen, onChoose } = rest;
  return (
    <WindowRow
      at={at}
      columns={layout.template}
      role="row"
      aria-rowindex={index + 2}
      aria-selected={isOpen}
      className={`grid-row ${row?.kind ?? ''} ${isOpen ? 'on' : ''}`}
      onClick={() => row && onOpen(row.id)}
    >
      {row ? (
        <>
          <WindowCell role="gridcell" left={isFrozen ? 0 : undefined}>
            <Check
              label={`Choose ${row.sku ?? row.title ?? 'this'}`}
              checked={isChosen}
              isFixed={isDecided}
              onChange={(to, isSpan) => onChoose(index, to, isSpan)}
            />
          </WindowCell>
          <WindowCell role="gridcell" className="cut" left={isFrozen ? checkWidth : undefined}>
            <First row={row} flat={isFlat} />
          </WindowCell>
          {columns.map((column) => (
            <WindowCell
              key={column.key}
              role="gridcell"
              className={`cut ${column.numeric ? 'num' : ''}`}
              left={layout.lefts.get(column.key)}
            >
              {cell(row, column, currency)}
            </WindowCell>
          ))}
        </>
      ) : (
        <Box as="span" muted role="gridcell">
          {row === null ? 'No longer there' : '…'}
        </Box>
      )}
    </WindowRow>
  );
});

export function Check({
  label,
  checked,
  isFixed = false,
  onChange,
}: {
  label: string;
  checked: boolean;
  isFixed?: boolean;
  /** `isSpan`: with Shift. */
  onChange: (to: boolean, isSpan: boolean) => void;
}) {
  return (
    <input
      type="checkbox"
      className="check"
      aria-label={label}
      checked={checked}
      disabled={isFixed}
      tabIndex={-1}
      onClick={(event) => {
        event.stopPropagation();
        onChange(event.currentTarget.checked, event.shiftKey);
      }}
      onChange={() => undefined}
    />
  );
}

function First({ row, flat }: { row: GridRow; flat: boolean }) {
  if (row.kind === 'family')
    return (
      <Box as="span" cut row>
        <Thumb name={row.picture} />
        <Box as="b" cut>
          {row.title}
        </Box>{' '}
        <Box as="span" small muted>
          {plural(row.variants ?? 0, 'variant')}
        </Box>
      </Box>
    );
  return (
    <Box as="span" cut row padLeft={row.kind === 'variant' && !flat ? 5.5 : 0}>
      <Thumb name={row.picture} />
      <Box as="span" cut muted wide={122} fixed title={row.sku ?? ''}>
        {row.sku ?? 'no SKU'}
      </Box>
      <Box as="span" cut title={row.title ?? ''}>
        {row.title ?? (
          <Box as="i" muted>
            no title
          </Box>
        )}
      </Box>
    </Box>
  );
}

function cell(row: GridRow, column: Column, currency: string | undefined): ReactNode {
  switch (column.key) {
    case 'price':
      return money(row.price, currency);
    case 'stock':
      return (
        <Box as="span" tone={row.stock <= 0 ? 'blocked' : undefined} strong={row.stock <= 0}>
          {count(row.stock)}
        </Box>
      );
    case 'complete':
      return <Meter percent={row.complete} label="Complete" />;
    case 'places':
      return <Places row={row} />;
    case 'category':
      return (
        <Box as="span" muted>
          {row.category?.at(-1)}
        </Box>
      );
    case 'brand':
    case 'gtin':
    case 'state':
      return row[column.key];
    default:
      return row.values[column.key] ?? '';
  }
}

/** The worst state first, each with its count where there are several. */
function Places({ row }: { row: GridRow }) {
  const sorted = statesOf(row.places);
  if (sorted.length === 0) return <State is="none"> </State>;
  return (
    <Box as="span" row gap={2.5}>
      {sorted.map(([state, n]) => (
        <span key={state} title={`${n} ${state}`}>
          <State is={state}>{row.kind === 'family' ? n : state === 'not for this channel' ? 'not here' : state}</State>
        </span>
      ))}
    </Box>
  );
}
