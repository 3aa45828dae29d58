/** Edits by people: claims that win, prices and stock; checked against what they were made against. */
import { type Edit, type Effect, editSchema } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { splitSlot } from '@velvet-shelf/core/claims';
import { type Attribute, type Value, canonical, parseValue, plainStyle, readGtin } from '@velvet-shelf/core/values';
import { and, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, ids, first } from '../db/client.js';
import { act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { fieldOf } from './fields.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { resolveUnits } from './resolve.js';
import { unitsOf } from './units.js';
import { explainProduct, typedText } from './product.js';
import * as tables from '../db/schema/index.js';
import { changesOf } from '../history/record.js';

export interface ProductEdits {
  productId: number;
  edits: Edit[];
}

export type KeptClaim = { value: Value } | { empty: true } | null;

/** Saves edits of one or many products as one action; a conflict anywhere saves nothing. */
export async function saveEdits(services: Services, user: User, list: ProductEdits[], words?: string): Promise<Effect> {
  const dictionary = await loadDictionary(services.db);
  const { effect } = await act(services, user, { kind: 'edit', tells: ['catalog'] }, async (on) => {
    const said: string[] = [];
    const units = new Set<number>();
    await lockUnits(
      on.tx,
      list.map(({ productId }) => productId),
    );
    for (const { productId, edits } of list) {
      const { product, slots } = await explainProduct(on.tx, productId, dictionary);
      units.add(product.unit_id);
      for (const edit of edits.map((each) => editSchema.parse(each))) {
        const editField = fieldOf(edit.attribute);
        const { label, delta } = editField
          ? await editField(on.tx, { productId, product, edit, actionId: on.id })
          : await editClaim(on.tx, productId, edit, user, dictionary, slots);
        on.change({ kind: 'product', id: productId, delta });
        said.push(`${label} of ${product.sku ?? product.title ?? 'a product'}`);
      }
    }
    on.change(...(await resolveUnits(on.tx, [...units], dictionary)));
    on.say(words ?? sayEdits(said));
    await on.dirty([...units]);
  });
  return effect;
}

/** Of two who edit the same goods at once the second one compares with what the first has made of them. */
async function lockUnits(tx: Executor, products: readonly number[]): Promise<void> {
  await tx.execute(sql`
    SELECT 1 FROM product WHERE id IN (SELECT unnest(ARRAY[id, unit_id]) FROM product WHERE id = ANY(${ids(products)})) ORDER BY id FOR UPDATE`);
}

function sayEdits(said: string[]): string {
  const [first = 'Nothing', ...others] = said;
  return others.length === 0 ? `Set ${first}` : `Set ${first} and ${others.length} more`;
}

type ParsedEdit = z.output<typeof editSchema>;

async function editClaim(
  tx: Executor,
  productId: number,
  edit: ParsedEdit,
  user: User,
  dictionary: Dictionary,
  slots: Awaited<ReturnType<typeof explainProduct>>['slots'],
) {
  const attribute = dictionary.attributes.get(edit.attribute);
  const attributeId = attribute && dictionary.ids.get(attribute.key);
  if (!attribute || attributeId === undefined) throw badRequest(`There is no attribute “${edit.attribute}”`);
  if (isComputed(attribute.key)) throw badRequest(`${attribute.label} follows from the sources; it cannot be edited`);
  const language = attribute.perLanguage ? (edit.language ?? dictionary.home) : '';
  const slot = language === '' ? attribute.key : `${attribute.key}@${language}`;
  const held = slots.get(slot)?.value;
  const current = held === undefined ? null : typedText(held, attribute);
  if (current !== edit.madeAgainst)
    throw stale(`${attribute.label} was changed meanwhile: it is now “${current ?? 'empty'}”`, {
      current,
      yours: edit.text ?? null,
      attribute: attribute.key,
    });
  const before = await keptClaim(tx, productId, attributeId, language);
  const after: KeptClaim = edit.letGo ? null : readEdit(edit.text ?? null, attribute);
  await writeClaim(tx, productId, attributeId, language, after, user.id);
  return { label: attribute.label, delta: { [`#${slot}`]: [before, after] } };
}

function readEdit(text: string | null, attribute: Attribute): KeptClaim {
  const read = parseEdit(text, attribute);
  if ('reason' in read)
    throw badRequest(`${attribute.label}: ${read.reason}`, [
      { pointer: `/body/edits/${attribute.key}`, detail: read.reason },
    ]);
  return read.claim;
}

/** What a person typed as a claim, or why it cannot be one; nothing typed is empty on purpose. */
export function parseEdit(
  text: string | null,
  attribute: Attribute,
): { claim: { value: Value } | { empty: true } } | { reason: string } {
  if (text === null || text.trim() === '') return { claim: { empty: true } };
  const read = parseValue(text, plainStyle, attribute);
  if (!read.ok) return { reason: read.reason };
  if (attribute.role !== 'gtin') return { claim: { value: read.value } };
  const gtin = readGtin(text);
  return gtin.ok ? { claim: { value: gtin.written } } : { reason: gtin.reason };
}

const isClaim = (productId: number, attributeId: number, language: string) =>
  and(
    eq(tables.claimEdit.productId, productId),
    eq(tables.claimEdit.attributeId, attributeId),
    eq(tables.claimEdit.lang, language),
  );

/** What an edit changed: claims by `#` and their slot, beside what other rooms edit. */
const claimDelta = z.record(z.string(), z.array(z.custom<KeptClaim>()));

export async function keptClaim(
  tx: Executor,
  productId: number,
  attributeId: number,
  language: string,
): Promise<KeptClaim> {
  const claimEdit = await first(
    tx
      .select({ value: tables.claimEdit.value })
      .from(tables.claimEdit)
      .where(isClaim(productId, attributeId, language)),
  );
  return claimEdit === undefined ? null : claimEdit.value === null ? { empty: true } : { value: claimEdit.value };
}

export async function writeClaim(
  tx: Executor,
  productId: number,
  attributeId: number,
  language: string,
  claim: KeptClaim,
  actor: number,
): Promise<void> {
  if (claim === null) {
    await tx.delete(tables.claimEdit).where(isClaim(productId, attributeId, language));
    return;
  }
  await tx
    .insert(tables.claimEdit)
    .values({ productId, attributeId, lang: language, value: 'value' in claim ? claim.value : null, actor })
    .onConflictDoUpdate({
      target: [tables.claimEdit.productId, tables.claimEdit.attributeId, tables.claimEdit.lang],
      set: { value: sql`excluded.value`, actor: sql`excluded.actor`, at: sql`now()` },
    });
}

/** Takes an edit of values back; products follow. What was edited beside the values is taken back by its own room. */
export async function undoEditAction({ tx, actionId, actor, dirty }: Undoing): Promise<Undone> {
  const dictionary = await loadDictionary(tx);
  const { left, units } = await undoEdit(tx, actionId, actor, dictionary);
  if (units.length === 0) throw notFound('product of this edit any more');
  const changes = await resolveUnits(tx, units, dictionary);
  await dirty(units);
  return { left, changes };
}

/** Takes an edit back, field by field, where nobody has changed the field since. */
export async function undoEdit(
  tx: Executor,
  actionId: number,
  actor: number,
  dictionary: Dictionary,
): Promise<{ left: string[]; units: number[] }> {
  const changes = await changesOf(tx, actionId, 'product', claimDelta);
  const left: string[] = [];
  for (const { id, delta } of changes)
    for (const [field, [before = null, after = null]] of Object.entries(delta)) {
      if (!field.startsWith('#')) continue;
      const [key, language = ''] = splitSlot(field.slice(1));
      const attributeId = dictionary.ids.get(key);
      if (attributeId === undefined) continue;
      if (canonical(await keptClaim(tx, id, attributeId, language)) === canonical(after))
        await writeClaim(tx, id, attributeId, language, before, actor);
      else left.push(`${dictionary.attributes.get(key)?.label ?? key}: changed since`);
    }
  return {
    left,
    units: await unitsOf(
      tx,
      changes.map((change) => change.id),
    ),
  };
}
