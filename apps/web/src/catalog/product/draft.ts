/** What somebody has written on a product's page and not saved: texts by goods and slot, and what each was written against. */
import { type Edit, type ProductAnswer, type SheetColumn, api } from '@velvet-shelf/contract';
import { cellKey } from '@velvet-shelf/core/catalog';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import { ask, keyOf } from '../../api/ask';
import { ApiProblem, call } from '../../api/call';
import { useSettled } from '../../design/settled';
import { faultsOf, toSave } from '../sheet/saving';

export interface Draft {
  /** What is written into a slot of these goods; undefined where nothing is, or not the same in all. */
  written: (products: readonly number[], slot: string) => string | undefined;
  /** Writes a text over what goods hold; a text that is what they hold is nothing to save. */
  write: (products: readonly number[], slot: string, text: string, held: string) => void;
  faultOf: (products: readonly number[], slot: string) => string | undefined;
  /** Values to be saved, each counted once however many goods it is for, and those goods. */
  values: number;
  goods: number;
  hasFaults: boolean;
  /** What saving would do to listings; undefined until it was tried. */
  effect: { becameReady: number; becameBlocked: number; whole: boolean } | undefined;
  /** Why trying or saving was refused. */
  error: unknown;
  /** Somebody was faster with what is to be saved: writes it over theirs. */
  insist: (() => void) | undefined;
  isSaving: boolean;
  save: () => Promise<unknown>;
  putBack: () => void;
}

const [trying] = keyOf(api.sheet.tryOut);

/** Milliseconds of rest before what is written is tried. */
const rest = 500;

const conflictSchema = z.array(
  z.object({
    productId: z.number(),
    attribute: z.string(),
    language: z.string().nullable(),
    current: z.string().nullable(),
  }),
);

/** What is another value now than these were written against. */
const conflictsOf = (error: unknown) =>
  error instanceof ApiProblem && error.status === 412
    ? (conflictSchema.safeParse(error.extra.conflicts).data ?? [])
    : [];

type Cells = { productId: number; edits: (Edit & { language: string | null })[] }[];

interface Sent {
  products: Cells;
  texts: ReadonlyMap<string, string>;
}

/** Pictures of these goods as columns: a sheet has none of them, a page writes them with the rest. */
export const pictureColumns = (products: readonly (ProductAnswer | undefined)[]): SheetColumn[] =>
  products
    .flatMap((product) => product?.values ?? [])
    .filter(({ type }) => type === 'media')
    .map(({ attribute, label, group, type, level, role }) => ({
      ...{ slot: attribute, label, group, attribute, language: null },
      read: { key: attribute, label, group, type, level, many: true, perLanguage: false, ...(role ? { role } : {}) },
    }));

export function useDraft(columns: readonly SheetColumn[]): Draft {
  const [cells, setCells] = useState<ReadonlyMap<string, string>>(new Map());
  const [against, setAgainst] = useState<ReadonlyMap<string, string>>(new Map());
  const queries = useQueryClient();
  const bySlot = useMemo(() => new Map(columns.map((column) => [column.slot, column])), [columns]);
  const faults = useMemo(() => faultsOf(cells, bySlot), [cells, bySlot]);
  const products = useMemo<Cells>(() => toSave(cells, against, bySlot, faults), [cells, against, bySlot, faults]);
  const settled = useSettled(products, rest);
  const isTried = settled.length > 0 && faults.size === 0;
  const tried = useQuery({
    ...ask(api.sheet.tryOut, { body: { products: settled } }),
    enabled: isTried,
    retry: false,
    gcTime: 0,
  });
  const save = useMutation({
    mutationFn: (sent: Sent) => call(api.sheet.save, { body: { products: sent.products } }),
    onSuccess: (_, { texts }) => {
      // What was written while it was being saved stays written, over what is held now.
      setCells((now) => new Map([...now].filter(([key, text]) => texts.get(key) !== text)));
      setAgainst((now) => new Map([...now].map(([key, text]) => [key, texts.get(key) ?? text])));
      // What was tried is saved: trying it again would meet itself.
      void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== trying });
    },
  });
  const same = (goods: readonly number[], slot: string, of: ReadonlyMap<string, string>) => {
    const texts = new Set(goods.map((product) => of.get(cellKey(product, slot))));
    return texts.size === 1 ? [...texts][0] : undefined;
  };
  const error = save.error ?? (isTried ? tried.error : null);
  const conflicts = conflictsOf(error);
  const slots = new Set([...cells.keys()].map((key) => key.slice(key.indexOf(' ') + 1)));
  return {
    written: (goods, slot) => same(goods, slot, cells),
    faultOf: (goods, slot) => same(goods, slot, faults),
    write: (goods, slot, text, held) => {
      const next = new Map(cells);
      const before = new Map(against);
      for (const product of goods) {
        const key = cellKey(product, slot);
        if (text === held) next.delete(key);
        else next.set(key, text);
        if (!cells.has(key)) before.set(key, held);
      }
      setCells(next);
      setAgainst(before);
    },
    values: slots.size,
    goods: products.length,
    hasFaults: faults.size > 0,
    effect: isTried && settled === products ? tried.data : undefined,
    error,
    insist:
      conflicts.length === 0
        ? undefined
        : () => {
            const now = new Map(against);
            for (const { productId, attribute, language, current } of conflicts) {
              const slot = columns.find(
                (column) => column.attribute === attribute && column.language === language,
              )?.slot;
              if (slot !== undefined) now.set(cellKey(productId, slot), current ?? '');
            }
            setAgainst(now);
            save.reset();
          },
    isSaving: save.isPending,
    save: () => save.mutateAsync({ products, texts: cells }),
    putBack: () => {
      setCells(new Map());
      setAgainst(new Map());
      save.reset();
    },
  };
}
