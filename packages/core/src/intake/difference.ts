/** What a row would change in the record it belongs to, field by field. */
import { sameValue, type Value } from '../values/index.js';
import type { ReadRecord, RecordOffer } from './rows.js';

/** The part of a record that is kept and compared: JSON without functions or undefined members. */
export interface RecordContent {
  family?: string;
  options?: [string, string][];
  values: Record<string, Value>;
  offer: RecordOffer;
  boughtFrom?: string;
  theirNumber?: string;
}

export type FieldChange = { field: string; before: Value | undefined; after: Value | undefined };

export function contentOf(record: ReadRecord): RecordContent {
  return {
    ...(record.family !== undefined ? { family: record.family } : {}),
    ...(record.options.length > 0 ? { options: record.options } : {}),
    values: record.values,
    offer: record.offer,
    ...(record.boughtFrom !== undefined ? { boughtFrom: record.boughtFrom } : {}),
    ...(record.theirNumber !== undefined ? { theirNumber: record.theirNumber } : {}),
  };
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

/** A record with news laid over it: what the news does not mention stays as it was. */
export function mergeContent(held: RecordContent, news: RecordContent): RecordContent {
  return {
    ...held,
    ...(news.family === undefined ? {} : { family: news.family }),
    ...(news.options ? { options: news.options } : {}),
    values: { ...held.values, ...news.values },
    offer: {
      ...held.offer,
      ...news.offer,
      ...(news.offer.regular ? { regular: { ...held.offer.regular, ...news.offer.regular } } : {}),
      ...(news.offer.sale ? { sale: { ...held.offer.sale, ...news.offer.sale } } : {}),
    },
  };
}
