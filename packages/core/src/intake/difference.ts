/** What a row would change in the record it belongs to, field by field. */
import { splitSlot } from '../claims/index.js';
import { type Attribute, type Value, canonical, sameValue } from '../values/index.js';
import type { ReadRecord, RecordOffer } from './rows.js';

/** The part of a record that is kept and compared, as JSON. */
export interface RecordContent {
  family?: string;
  options?: [string, string][];
  values: Record<string, Value>;
  offer: RecordOffer;
  boughtFrom?: string;
  theirNumber?: string;
}

export type FieldChange = { field: string; before: Value | undefined; after: Value | undefined };

/** What is kept of a row, the keys of every object in order, so that its JSON is `canonical` without going through it. */
export function contentOf(record: ReadRecord): RecordContent {
  const { boughtFrom, family, offer, options, theirNumber, values } = record;
  const content = {
    boughtFrom,
    family,
    offer: {
      regular: offer.regular && inOrder(offer.regular),
      sale: offer.sale && inOrder(offer.sale),
      saleFrom: offer.saleFrom,
      saleTo: offer.saleTo,
      stock: offer.stock,
    },
    options: options.length > 0 ? options : undefined,
    theirNumber,
    values: inOrder(values),
  };
  return content;
}

function inOrder<T>(members: Record<string, T>): Record<string, T> {
  const ordered: Record<string, T> = {};
  for (const key of Object.keys(members).sort()) ordered[key] = members[key] as T;
  return ordered;
}

/** Field by field, in the order of the new content, fields that vanished last. */
export function contentChanges(before: RecordContent | undefined, after: RecordContent): FieldChange[] {
  const [old, now] = [flat(before), flat(after)];
  const fields = [...now.keys(), ...[...old.keys()].filter((field) => !now.has(field))];
  return fields
    .filter((field) => !sameValue(old.get(field), now.get(field)))
    .map((field) => ({ field, before: old.get(field), after: now.get(field) }));
}

function flat(content: RecordContent | undefined): Map<string, Value> {
  const fields = new Map<string, Value>();
  if (!content) return fields;
  if (content.family !== undefined) fields.set('family', content.family);
  if (content.options) fields.set('options', content.options.map(([axis, value]) => `${axis}: ${value}`).join(' | '));
  for (const [key, value] of Object.entries(content.values)) fields.set(key, value);
  for (const [currency, amount] of Object.entries(content.offer.regular ?? {})) fields.set(`price ${currency}`, amount);
  for (const [currency, amount] of Object.entries(content.offer.sale ?? {}))
    fields.set(`sale price ${currency}`, amount);
  if (content.offer.saleFrom) fields.set('sale starts', content.offer.saleFrom);
  if (content.offer.saleTo) fields.set('sale ends', content.offer.saleTo);
  if (content.offer.stock !== undefined) fields.set('stock', content.offer.stock);
  if (content.boughtFrom !== undefined) fields.set('bought from', content.boughtFrom);
  if (content.theirNumber !== undefined) fields.set('their number', content.theirNumber);
  return fields;
}

/** True where two contents agree in all that other variants share: family, options and family-level values. */
export function sameForFamily(
  before: RecordContent,
  after: RecordContent,
  dictionary: ReadonlyMap<string, Attribute>,
): boolean {
  const shared = ({ family, options, values }: RecordContent) =>
    canonical([
      family ?? null,
      options ?? null,
      ...Object.keys(values)
        .filter((slot) => dictionary.get(splitSlot(slot)[0])?.level === 'family')
        .sort()
        .map((slot) => [slot, values[slot] ?? null]),
    ]);
  return shared(before) === shared(after);
}

/** A record with news laid over it: what the news does not mention stays as it was. */
export function mergeContent(held: RecordContent, news: RecordContent): RecordContent {
  const amounts = (kind: 'regular' | 'sale') => {
    const both = { ...held.offer[kind], ...news.offer[kind] };
    return Object.keys(both).length > 0 ? both : undefined;
  };
  const offer = {
    regular: amounts('regular'),
    sale: amounts('sale'),
    saleFrom: news.offer.saleFrom ?? held.offer.saleFrom,
    saleTo: news.offer.saleTo ?? held.offer.saleTo,
    stock: news.offer.stock ?? held.offer.stock,
  } as RecordOffer;
  return {
    ...held,
    ...(news.family === undefined ? {} : { family: news.family }),
    ...(news.options ? { options: news.options } : {}),
    values: { ...held.values, ...news.values },
    offer,
  };
}
