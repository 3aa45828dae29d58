/** The virtualised grid: any number of rows, fetched by index window from an opened view. */
import { Box } from '../design/Box';
import type { Choosing } from './choosing';
import { useCompany } from '../company/company';
import { SizeHandle } from '../design/SizeHandle';
import { WindowBody, WindowCell, WindowHead } from '../design/Windowed';
import { useQueries } from '@tanstack/react-query';
import { type GridRow, api, windowRows } from '@velvet-shelf/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useCallback, useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { ask } from '../api/ask';
import { ApiProblem } from '../api/call';
import { type Column, attributesOf } from './columns';
import { Check, Line, checkWidth, layOutColumns } from './GridLine';
import type { OpenedView } from './opened';
import './grid.css';

const rowHeight = 34;
interface GridProps {
  opened: OpenedView;
  columns: readonly Column[];
  onSize: (column: string, width: number) => void;
  sort: string;
  onSort(sort: string): void;
  open: number | undefined;
  onOpen(id: number): void;
  choosing: Choosing;
  /** The server knows the opened view no more. */
  onExpired(): void;
}

export function Grid({ opened, columns, onSize, sort, onSort, open, onOpen, choosing, onExpired }: GridProps) {
  const { token, first } = opened;
  // Until they are counted there are as many as before, or as have come.
  const counted = useRef(first.length);
  const rows = opened.rows ?? Math.max(counted.current, first.length);
  counted.current = rows;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const [currency] = useCompany().currencies;
  const visible = virtual.getVirtualItems();
  const asked = attributesOf(columns);
  const pageOf = (index: number) => Math.floor(index / windowRows);
  // The next one too, before it is in sight.
  const ahead = Math.min(rows - 1, (visible.at(-1)?.index ?? 0) + windowRows / 2);
  const pages = new Set([...visible.map(({ index }) => index), ahead].map(pageOf).filter((page) => page >= 0));
  const windows = useQueries({
    queries: [...pages].map((page) => ({
      ...ask(api.catalog.window, {
        params: { token },
        query: { from: page * windowRows, count: windowRows, columns: asked },
      }),
      ...(page === 0 && asked === opened.columns ? { initialData: { items: [...first] } } : {}),
      staleTime: 60_000,
    })),
  });
  const isExpired = windows.some(({ error }) => error instanceof ApiProblem && error.status === 404);
  useEffect(() => {
    if (isExpired) onExpired();
    // Told once for each view.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isExpired, token]);
  // Of a view that was opened again the rows from before stand until the new ones come.
  const held = useRef<ReadonlyMap<number, readonly (GridRow | null)[]>>(new Map());
  const byPage = new Map(
    [...pages].flatMap((page, i) => {
      const items = windows[i]?.data?.items ?? held.current.get(page);
      return items ? [[page, items] as const] : [];
    }),
  );
  held.current = byPage;
  const rowAt = (index: number): GridRow | null | undefined => byPage.get(pageOf(index))?.[index % windowRows];
  const isFrozen = columns.some((column) => column.isFrozen);
  const layout = useMemo(() => layOutColumns(columns), [columns]);
  const { template, least, lefts } = layout;
  const current = visible.find((virtualItem) => rowAt(virtualItem.index)?.id === open)?.index;
  /** The row chosen last: with Shift those up to the next one are too. */
  const chosenLast = useRef<number>(undefined);
  const choose = (index: number, to: boolean, isSpan: boolean) => {
    const from = isSpan ? (chosenLast.current ?? index) : index;
    const span = Array.from({ length: Math.abs(index - from) + 1 }, (_, i) => Math.min(index, from) + i);
    choosing.toggle(
      span.flatMap((each) => rowAt(each)?.id ?? []),
      to,
    );
    chosenLast.current = index;
  };
  // The same for all rows as they scroll by: what it does is looked up when it is called.
  const chooseNow = useRef(choose);
  useLayoutEffect(() => {
    chooseNow.current = choose;
  });
  const onChoose = useCallback<typeof choose>((...row) => chooseNow.current(...row), []);
  const onKey = (event: KeyboardEvent) => {
    const standing = current === undefined ? undefined : rowAt(current);
    if (event.key === ' ' && standing && current !== undefined) {
      event.preventDefault();
      if (!choosing.isDecided(standing)) choose(current, !choosing.isChosen(standing), event.shiftKey);
      return;
    }
    if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      choosing.all();
      return;
    }
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (step === 0) return;
    event.preventDefault();
    const next = Math.min(rows - 1, Math.max(0, (current ?? -1) + step));
    const row = rowAt(next);
    if (row) onOpen(row.id);
    virtual.scrollToIndex(next, { align: 'auto' });
  };
  return (
    <Box
      grow
      className="grid"
      role="grid"
      aria-rowcount={rows + 1}
      aria-label="Products"
      tabIndex={0}
      onKeyDown={onKey}
      ref={scroller}
    >
      <WindowHead columns={template} least={least} className="grid-head" role="row">
        <WindowCell role="columnheader" left={isFrozen ? 0 : undefined}>
          <Check
            label="Choose all of the view"
            checked={choosing.isAll}
            onChange={(to) => (to ? choosing.all() : choosing.none())}
          />
        </WindowCell>
        <Head id="family" label="Product" sort={sort} onSort={onSort} left={isFrozen ? checkWidth : undefined} />
        {columns.map((column) => (
          <Head
            key={column.key}
            id={column.key}
            label={column.label}
            numeric={column.numeric}
            sort={sort}
            onSort={onSort}
            fixed={column.key === 'places'}
            left={lefts.get(column.key)}
            size={{ width: column.width, onSize: (width) => onSize(column.key, width) }}
          />
        ))}
      </WindowHead>
      <WindowBody high={virtual.getTotalSize()} least={least}>
        {visible.map(({ index, start }) => {
          const row = rowAt(index);
          return (
            <Line
              key={index}
              {...{ index, row, columns, layout, currency, onOpen, isFrozen }}
              at={start}
              isFlat={sort !== 'family'}
              isOpen={row !== undefined && row?.id === open}
              isChosen={row ? choosing.isChosen(row) : false}
              isDecided={row ? choosing.isDecided(row) : false}
              onChoose={onChoose}
            />
          );
        })}
      </WindowBody>
    </Box>
  );
}

function Head({
  id,
  label,
  numeric,
  sort,
  onSort,
  fixed,
  left,
  size,
}: {
  id: string;
  label: string;
  numeric?: boolean | undefined;
  sort: string;
  onSort: (sort: string) => void;
  fixed?: boolean;
  left?: number | undefined;
  size?: { width: number; onSize: (width: number) => void };
}) {
  const down = sort === `-${id}`;
  const up = sort === id;
  return (
    <WindowCell
      role="columnheader"
      aria-sort={up ? 'ascending' : down ? 'descending' : 'none'}
      className={numeric ? 'num' : ''}
      left={left}
    >
      {fixed ? (
        label
      ) : (
        <button type="button" onClick={() => onSort(up ? `-${id}` : id)}>
          {label}
          {up ? ' ↑' : down ? ' ↓' : ''}
        </button>
      )}
      {size && <SizeHandle {...size} />}
    </WindowCell>
  );
}
