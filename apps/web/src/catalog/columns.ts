/** Which columns the grid shows, in which order, how wide, and which stay in sight; remembered in this browser. */
import { useQuery } from '@tanstack/react-query';
import { api, keptColumnSchema } from '@velvet-shelf/contract';
import { useState } from 'react';
import { z } from 'zod';
import { ask } from '../api/ask';

export interface Column {
  key: string;
  label: string;
  width: number;
  numeric?: boolean;
  /** Of the dictionary: asked for with each window. */
  attribute?: boolean;
  /** Stays in sight while the others are scrolled. */
  isFrozen?: boolean;
}

/** Keys of the attributes among columns, as a window of rows is asked for with them. */
export const attributesOf = (columns: readonly Column[]): string =>
  columns.flatMap(({ key, attribute }) => (attribute ? [key] : [])).join(',');

const standard: Column[] = [
  { key: 'category', label: 'Category', width: 170 },
  { key: 'brand', label: 'Brand', width: 105 },
  { key: 'price', label: 'Price', width: 80, numeric: true },
  { key: 'stock', label: 'Stock', width: 70, numeric: true },
  { key: 'complete', label: 'Complete', width: 84 },
  { key: 'places', label: 'Fit to send', width: 150 },
  { key: 'gtin', label: 'GTIN', width: 130 },
  { key: 'state', label: 'State', width: 80 },
];
const slot = 'velvet.catalog.columns';
/** Pixels. */
const least = 40;
const most = 800;

/** A width that a column may have. */
export const boundWidth = (width: number): number => Math.round(Math.min(most, Math.max(least, width)));

const keptSchema = z.array(keptColumnSchema);
export type Kept = z.infer<typeof keptSchema>;
const first: Kept = ['category', 'price', 'stock', 'complete', 'places'].map((key) => ({ key }));

function keptHere(): Kept {
  try {
    return keptSchema.parse(JSON.parse(localStorage.getItem(slot) ?? 'null'));
  } catch {
    return first;
  }
}

export interface Columns {
  all: readonly Column[];
  /** As they are kept. */
  kept: Kept;
  keep: (kept: Kept) => void;
  /** In their order, those that stay in sight before the others. */
  shown: readonly Column[];
  toggle: (key: string) => void;
  order: (keys: readonly string[]) => void;
  size: (key: string, width: number) => void;
  freeze: (key: string, to: boolean) => void;
}

export function useColumns(): Columns {
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const [kept, setKept] = useState(keptHere);
  const known = new Set([...standard.map((column) => column.key), 'sku', 'title', 'description', 'pictures', 'page']);
  const all = [
    ...standard,
    ...(attributes.data?.items ?? [])
      .filter((attribute) => !known.has(attribute.key) && !attribute.perLanguage)
      .map((attribute): Column => ({
        key: attribute.key,
        label: attribute.label,
        width: 120,
        numeric: ['number', 'measure', 'money'].includes(attribute.type),
        attribute: true,
      })),
  ];
  const keep = (next: Kept) => {
    localStorage.setItem(slot, JSON.stringify(next));
    setKept(next);
  };
  const change = (key: string, to: Partial<Kept[number]>) =>
    keep(kept.map((column) => (column.key === key ? { ...column, ...to } : column)));
  const shown = kept.flatMap(({ key, width, isFrozen = false }) => {
    const column = all.find((one) => one.key === key);
    return column ? [{ ...column, width: width ?? column.width, isFrozen }] : [];
  });
  return {
    all,
    kept,
    keep,
    shown: [...shown.filter(({ isFrozen }) => isFrozen), ...shown.filter(({ isFrozen }) => !isFrozen)],
    toggle: (key) =>
      keep(
        kept.some((column) => column.key === key) ? kept.filter((column) => column.key !== key) : [...kept, { key }],
      ),
    order: (keys) => keep(keys.flatMap((key) => kept.find((column) => column.key === key) ?? [])),
    size: (key, width) => change(key, { width: boundWidth(width) }),
    freeze: (key, to) => change(key, { isFrozen: to }),
  };
}
