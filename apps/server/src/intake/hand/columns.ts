/** The sheet that goods made by hand are written as: its columns, what each feeds, and its cells. */
import { randomUUID } from 'node:crypto';
import type { ByHand } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { splitSlot } from '@velvet-shelf/core/claims';
import type { ColumnTarget } from '@velvet-shelf/core/intake';
import { type Attribute, foldText, keyOf, readTyped } from '@velvet-shelf/core/values';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { type Growing, takenOver } from './growing.js';

/** A column of the sheet: its head, what it feeds, and its cell for each variant. */
export interface Column {
  head: string;
  target: ColumnTarget;
  /** The field of a variant it is, where it is one. */
  field?: 'gtin' | 'price' | 'stock';
  cell(variant: ByHand['variants'][number], i: number): string;
}

/** Columns that say something of one of the variants. */
export function columnsOf(
  { shared, axes, variants }: ByHand,
  dictionary: Dictionary,
  currency: string,
  growing: Growing | undefined,
): Column[] {
  const { attributes, home } = dictionary;
  const feeds = ({ key, perLanguage }: Attribute): ColumnTarget => ({
    to: 'attribute',
    attribute: key,
    ...(perLanguage ? { language: home } : {}),
  });
  const gtin = attributes.get(keyOf(attributes, 'gtin') ?? '');
  const family = growing?.key ?? `hand-${randomUUID()}`;
  const columns: Column[] = [{ head: 'SKU', target: { to: 'key' }, cell: ({ sku }) => sku }];
  if (axes.length > 0)
    columns.push(
      { head: 'Family', target: { to: 'family' }, cell: () => family },
      {
        head: 'Options',
        target: { to: 'options' },
        cell: ({ options }) => options.map((value, i) => `${axes[i]}: ${value}`).join(' | '),
      },
    );
  for (const { attribute: key, text } of shared) {
    const attribute = attributes.get(key);
    if (attribute) columns.push({ head: attribute.label, target: feeds(attribute), cell: () => text });
  }
  if (growing) columns.push(...columnsTakenOver(growing, { axes, variants, shared }, dictionary));
  // An option that an attribute is named like is a value of it too, where every variant's can be read as one.
  for (const [i, axis] of axes.entries()) {
    const attribute = [...attributes.values()].find(
      ({ label, level, key }) => level === 'variant' && !isComputed(key) && foldText(label) === foldText(axis),
    );
    const isRead = ({ options }: ByHand['variants'][number]) =>
      attribute !== undefined && !('reason' in readTyped(options[i] ?? '', attribute));
    if (attribute && !shared.some((one) => one.attribute === attribute.key) && variants.every(isRead))
      columns.push({ head: attribute.label, target: feeds(attribute), cell: ({ options }) => options[i] ?? '' });
  }
  if (gtin) columns.push({ head: gtin.label, target: feeds(gtin), field: 'gtin', cell: (variant) => variant.gtin });
  columns.push(
    {
      head: `Price ${currency}`,
      target: { to: 'price', kind: 'regular', currency },
      field: 'price',
      cell: ({ price }) => price,
    },
    { head: 'Stock', target: { to: 'stock' }, field: 'stock', cell: ({ stock }) => stock },
  );
  return told(columns.filter(({ cell }) => variants.some((variant, i) => cell(variant, i) !== '')));
}

/** What each takes over from the sibling next to it, where nothing else is said. */
function columnsTakenOver(
  growing: Growing,
  { axes, variants, shared }: Pick<ByHand, 'axes' | 'variants' | 'shared'>,
  dictionary: Dictionary,
): Column[] {
  const over = variants.map(({ options }) => takenOver(growing, { axes, options }, dictionary));
  return [...new Set(over.flatMap((said) => [...said.keys()]))].flatMap((slot): Column[] => {
    const [key, language] = splitSlot(slot);
    const attribute = dictionary.attributes.get(key);
    if (!attribute || shared.some((one) => one.attribute === key)) return [];
    return [
      {
        head: language === undefined ? attribute.label : `${attribute.label} (${language})`,
        target: { to: 'attribute', attribute: key, ...(language === undefined ? {} : { language }) },
        cell: (_, i) => over[i]?.get(slot) ?? '',
      },
    ];
  });
}

/** Heads as a person reads them, none twice; a file has two columns at least. */
function told(columns: Column[]): Column[] {
  const heads = new Map<string, number>();
  const named = columns.map((column) => {
    const n = (heads.get(column.head) ?? 0) + 1;
    heads.set(column.head, n);
    return n === 1 ? column : { ...column, head: `${column.head} ${n}` };
  });
  return named.length > 1 ? named : [...named, { head: 'Note', target: { to: 'ignore' }, cell: () => '' }];
}
