/** The sheet: goods of a view as cells to write in, as one would in a spreadsheet; nothing is kept until it is saved. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type SheetColumn, api } from '@velvet-shelf/contract';
import {
  cellKey,
  edgesOf,
  fillDown,
  fillOver,
  placeCells,
  reachOf,
  readCells,
  splitCellKey,
  sumOf,
  writeCells,
} from '@velvet-shelf/core/catalog';
import { type ClipboardEvent, type KeyboardEvent, useDeferredValue, useMemo, useState } from 'react';
import { z } from 'zod';
import { inAddress, useAddress } from '../../api/address';
import { ask } from '../../api/ask';
import { ApiProblem, call } from '../../api/call';
import { Box } from '../../design/Box';
import { CellField } from '../../design/CellField';
import { type CellLook, CellGrid } from '../../design/CellGrid';
import { Drawer } from '../../design/Drawer';
import { Empty, Loaded, ProblemBox, useTell } from '../../design/feedback';
import { plural } from '../../design/words';
import { useOpenedView } from '../opened';
import { catalogAddress, viewOf } from '../view';
import { FindBar } from './FindBar';
import { Foot, Unsaved } from './Foot';
import { Leaving } from '../../design/Leaving';
import { Review } from './Review';
import { SheetHead } from './SheetHead';
import { attributeOf, choicesOf, headOf, isNumeric, keepSlots, slotsToShow, wideOf } from './columns';
import { readKey, spotsOf, stepFrom } from './keys';
import { claimOf, useSheetRows } from './rows';
import { faultsOf, sayTried, toSave } from './saving';
import { useSheetState } from './state';

/** What the catalog shows, and which columns of it. */
const sheetAddress = catalogAddress.extend({ columns: inAddress.list(z.string()) });

export function Sheet() {
  const columns = useQuery({ ...ask(api.sheet.columns), staleTime: 300_000 });
  return <Loaded query={columns}>{({ items }) => <Cells all={items} />}</Loaded>;
}

/** What was sent to be saved: the edits, and the texts by cell. */
interface Sent {
  products: ReturnType<typeof toSave>;
  texts: ReadonlyMap<string, string>;
}

/** Columns at the left that name the goods. */
const named = [
  { key: '#product', head: 'Product', wide: 184, frozen: true },
  { key: '#sku', head: 'SKU', wide: 132, frozen: true },
];

function Cells({ all }: { all: readonly SheetColumn[] }) {
  const [address, set] = useAddress(sheetAddress);
  const queries = useQueryClient();
  const tell = useTell();
  const view = { ...viewOf(address), show: 'variants' as const };
  const opened = useOpenedView(view, { mark: 'sheet' });
  const slots = slotsToShow(all, address.columns);
  const bySlot = useMemo(() => new Map(all.map((column) => [column.slot, column])), [all]);
  const shown = slots.flatMap((slot) => bySlot.get(slot) ?? []);
  const { rows, held, coming, error, read } = useSheetRows(opened.data, slots);
  const [state, act] = useSheetState();
  const [panel, setPanel] = useState<'find' | 'review'>();
  const [isRefused, setRefused] = useState(false);
  const { written } = state.changes;
  const size = { rows: rows.length, columns: named.length + shown.length };
  const heldText = (key: string) => claimOf(held.get(key));
  const columnAt = (column: number) => shown[column - named.length];
  const keyAt = (row: number, column: number): string | undefined => {
    const [goods, slot] = [rows[row], columnAt(column)];
    return goods && slot && cellKey(goods.id, slot.slot);
  };
  const textAt = (row: number, column: number): string => {
    const key = keyAt(row, column);
    if (key !== undefined) return written.get(key) ?? held.get(key)?.text ?? '';
    const goods = rows[row];
    return (column === 0 ? (goods?.family?.title ?? goods?.title) : goods?.sku) ?? '';
  };
  // What was pasted stands at once, and is judged right after.
  const judged = useDeferredValue(written);
  const faults = useMemo(() => faultsOf(judged, bySlot), [judged, bySlot]);
  const moved = [...written.keys()].filter((key) => held.has(key) && (state.against.get(key) ?? '') !== heldText(key));
  const movedKeys = new Set(moved);

  /** Puts texts into cells, those that can be written in. */
  const put = (puts: readonly { row: number; column: number; text: string }[], words: string, span = state.span) => {
    const writable = puts.flatMap(({ row, column, text }) => {
      const key = keyAt(row, column);
      return key === undefined || held.get(key)?.origin === 'nowhere' ? [] : [{ key, text }];
    });
    const nowhere = puts.length - writable.length;
    if (nowhere > 0 && puts.length > 1) tell(`${plural(nowhere, 'cell')} cannot be written in, and stayed`, 'error');
    act({ do: 'write', puts: writable, held: heldText, words, span });
  };
  const chosen = edgesOf(state.span);
  const chosenCells = () => [...spotsOf(state.span)].map((spot) => ({ ...spot, text: textAt(spot.row, spot.column) }));
  const active = columnAt(state.span.from.column);
  const attribute = active && attributeOf(active);

  const save = useMutation({
    mutationFn: ({ products }: Sent) => call(api.sheet.save, { body: { products } }),
    onSuccess: async ({ becameReady, becameBlocked }, { texts }) => {
      tell(
        [
          `${plural(texts.size, 'cell')} saved`,
          becameReady > 0 && `${plural(becameReady, 'listing becomes', 'listings become')} ready`,
          becameBlocked > 0 && `${plural(becameBlocked, 'listing is', 'listings are')} blocked`,
        ]
          .filter(Boolean)
          .join('; '),
      );
      await read();
      // What was written meanwhile is not saved, and stays.
      act({ do: 'saved', texts });
      setRefused(false);
      setPanel(undefined);
      void queries.invalidateQueries();
    },
    onError: (problem) => {
      if (!(problem instanceof ApiProblem) || problem.status !== 412) return;
      setRefused(true);
      setPanel('review');
      void read();
    },
  });
  const toTry = panel === 'review' ? toSave(written, state.against, bySlot, faults) : [];
  const tried = useQuery({
    ...ask(api.sheet.tryOut, { body: { products: toTry } }),
    enabled: toTry.length > 0 && moved.length === 0 && judged === written,
    staleTime: 0,
    retry: false,
  });
  const send = () => {
    const texts = new Map([...written].filter(([key]) => !faults.has(key)));
    save.mutate({ texts, products: toSave(written, state.against, bySlot, faults) });
  };
  const toTake = written.size - faults.size;
  const mayNotSave = toTake === 0 || moved.length > 0 || judged !== written || save.isPending;

  const onKeyDown = (event: KeyboardEvent) => {
    if (state.editing) return;
    const meant = readKey(event, state.span, size);
    if (!meant) return;
    event.preventDefault();
    switch (meant.do) {
      case 'choose':
        act(meant);
        break;
      case 'edit':
        open(meant.typed);
        break;
      case 'clear':
        put(
          chosenCells().map((cell) => ({ ...cell, text: '' })),
          'Emptied',
        );
        break;
      case 'fill':
        put(fillDown(state.span, textAt), `Filled down ${plural(chosen.bottom - chosen.top, 'row')}`);
        break;
      case 'undo':
      case 'redo':
        act({ do: meant.do });
        break;
      case 'find':
        setPanel('find');
        break;
      case 'save':
        if (!mayNotSave) send();
        break;
    }
  };
  const open = (typed?: string) => {
    const { row, column } = state.span.from;
    const key = keyAt(row, column);
    if (key === undefined || held.get(key)?.origin === 'nowhere') return;
    act({ do: 'edit', begin: typed ?? textAt(row, column) });
  };
  const copied = (): string => {
    const lines: string[][] = [];
    for (const { row, text } of chosenCells()) (lines[row - chosen.top] ??= []).push(text);
    return writeCells(lines);
  };
  const onCopy = (event: ClipboardEvent) => {
    event.preventDefault();
    event.clipboardData.setData('text/plain', copied());
  };
  const onCut = (event: ClipboardEvent) => {
    onCopy(event);
    put(
      chosenCells().map((cell) => ({ ...cell, text: '' })),
      'Cut',
    );
  };
  const onPaste = (event: ClipboardEvent) => {
    event.preventDefault();
    const { puts, beyond, span } = placeCells(readCells(event.clipboardData.getData('text/plain')), state.span, size);
    if (puts.length === 0) return;
    put(puts, `Pasted ${plural(puts.length, 'cell')}`, span);
    if (beyond > 0)
      tell(
        `${plural(beyond, 'cell lies', 'cells lie')} beyond the sheet and ${beyond === 1 ? 'was' : 'were'} left out`,
        'error',
      );
  };

  const look = (row: number, column: number): CellLook => {
    const goods = rows[row];
    if (column === 0) {
      const isFirst = goods?.family == null || rows[row - 1]?.family?.id !== goods.family.id;
      return { text: isFirst ? textAt(row, 0) : '', tones: ['strong'] };
    }
    const key = keyAt(row, column);
    if (key === undefined) return { text: textAt(row, column) || 'no SKU', tones: ['fixed'] };
    const now = written.get(key);
    const fault = faults.get(key);
    if (now === undefined) {
      const cell = held.get(key);
      if (cell?.origin === 'nowhere') return { text: 'not there', tones: ['fixed', 'leaning'] };
      const leans = cell?.origin === 'family' || cell?.origin === 'fill';
      const isPinned = cell?.origin === 'own' && columnAt(column)?.pin !== undefined;
      return { text: cell?.text.slice(0, 300) ?? '…', tones: leans ? ['leaning'] : isPinned ? ['pinned'] : [] };
    }
    const tone = fault !== undefined ? 'bad' : movedKeys.has(key) ? 'moved' : 'changed';
    const empty = columnAt(column)?.pin ? 'follows its fill' : 'empty';
    return { text: now.slice(0, 300) || empty, tones: now === '' ? [tone, 'leaning'] : [tone], fault };
  };

  const lastWords = state.changes.done.at(-1)?.words;
  const total = opened.data?.rows ?? 0;
  return (
    <>
      <Box as="section" col grow>
        <SheetHead
          total={total}
          reading={coming > 0 ? rows.length : 0}
          onlyBlocking={address.toComplete}
          onOnlyBlocking={(toComplete) => set({ toComplete })}
          all={all}
          slots={slots}
          onSlots={(next) => {
            keepSlots(next);
            set({ columns: next }, { replace: true });
          }}
          onFind={() => setPanel(panel === 'find' ? undefined : 'find')}
          onClean={(cleanUp) =>
            put(
              chosenCells().map(({ row, column, text }) => {
                const slot = columnAt(column);
                return { row, column, text: cleanUp.clean(text, slot && attributeOf(slot)) };
              }),
              `Cleaned up: ${cleanUp.label}`,
            )
          }
        />
        {panel === 'find' && (
          <FindBar
            rows={size.rows}
            columns={size.columns}
            first={named.length}
            span={state.span}
            textAt={textAt}
            onGo={(spot) => act({ do: 'choose', span: { from: spot, to: spot } })}
            onReplace={(puts, words) => put(puts, words)}
            onClose={() => setPanel(undefined)}
          />
        )}
        {(opened.error ?? error) && <ProblemBox error={opened.error ?? error} />}
        {opened.data?.rows === 0 ? (
          <Empty title="No goods in this view">Its conditions or its search leave everything out.</Empty>
        ) : (
          <CellGrid
            label="Goods, cell by cell"
            rows={rows.length}
            columns={[
              ...named,
              ...shown.map((column) => ({
                key: column.slot,
                head: headOf(column),
                wide: wideOf(column),
                numeric: isNumeric(column),
              })),
            ]}
            look={look}
            active={state.span.from}
            inSight={state.span.to}
            chosen={chosen}
            onChoose={(spot, { extends: extending }) =>
              act({ do: 'choose', span: { from: extending ? state.span.from : spot, to: spot } })
            }
            onOpen={() => open()}
            reachOf={(to) => edgesOf(reachOf(state.span, to) ?? state.span)}
            onFill={(to) => {
              const reach = reachOf(state.span, to);
              if (!reach) return;
              const puts = fillOver(state.span, reach, textAt);
              put(puts, `Filled ${plural(puts.length, 'cell')}`, reach);
            }}
            onKeyDown={onKeyDown}
            onCopy={onCopy}
            onCut={onCut}
            onPaste={onPaste}
            editor={
              state.editing && active ? (
                <CellField
                  label={headOf(active)}
                  begin={state.editing.begin}
                  choices={choicesOf(active)}
                  isLong={active.read?.type === 'richText' || active.pin?.type === 'text'}
                  onLeave={() => act({ do: 'leave' })}
                  onDone={(text, then) =>
                    put(
                      [{ ...state.span.from, text: text.trim() === '' ? '' : text }],
                      `Wrote ${headOf(active)}`,
                      stepFrom(state.span, then, size),
                    )
                  }
                />
              ) : null
            }
          />
        )}
        <Foot
          cells={(chosen.bottom - chosen.top + 1) * (chosen.right - chosen.left + 1)}
          sum={
            attribute && chosen.left === chosen.right
              ? sumOf(
                  chosenCells().map(({ text }) => text),
                  attribute,
                  navigator.language,
                )
              : undefined
          }
          words={lastWords}
        />
        {written.size > 0 && (
          <Unsaved
            cells={written.size}
            products={new Set([...written.keys()].map((key) => splitCellKey(key).product)).size}
            faults={faults.size}
            moved={moved.length}
            error={save.error instanceof ApiProblem && save.error.status === 412 ? null : save.error}
            isSaving={save.isPending}
            onUndo={() => act({ do: 'undo' })}
            onReview={() => setPanel('review')}
            onSave={mayNotSave ? undefined : send}
          />
        )}
      </Box>
      {panel === 'review' && (
        <Drawer label="Review" onClose={() => setPanel(undefined)}>
          <Review
            cells={[...written].map(([key, text]) => {
              const { product, slot } = splitCellKey(key);
              const goods = rows.find(({ id }) => id === product);
              const column = bySlot.get(slot);
              return {
                key,
                goods: goods?.sku ?? goods?.title ?? 'no SKU',
                head: column ? headOf(column) : slot,
                before: held.get(key)?.text ?? '',
                after: text,
                fault: faults.get(key),
                moved: movedKeys.has(key),
              };
            })}
            isRefused={isRefused}
            effect={sayTried(tried)}
            onPutBack={(keys) => act({ do: 'put back', keys, words: `Put ${plural(keys.length, 'cell')} back` })}
            onInsist={(keys) => {
              for (const key of keys) act({ do: 'insist', key, held: heldText(key) });
            }}
          />
        </Drawer>
      )}
      <Leaving unsaved={written.size} what="cell" />
    </>
  );
}
