/** Edits by people: claims that win, prices and stock; checked against what they were made against. */
import { type Edit, type Effect, type TriedEffect, editSchema } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { type Edited, type Slots, empty, splitSlot } from '@velvet-shelf/core/claims';
import { type Attribute, type Value, canonical, groupBy, readTyped } from '@velvet-shelf/core/values';
import { and, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, ids, first, json, queryRows } from '../db/client.js';
import { type Acting, act, tryAct } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { Problem, badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { type EditField, type FieldEdit, type FieldWish, fieldOf } from './fields.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { type Held, heldWithin } from './held.js';
import { type UnitSources, resolveLoaded, resolveUnits } from './resolve.js';
import { unitsOf } from './units.js';
import { typedText } from './product.js';
import * as tables from '../db/schema/index.js';
import { changesOf } from '../history/record.js';

export interface ProductEdits {
  productId: number;
  edits: Edit[];
}

export type KeptClaim = { value: Value } | { empty: true } | null;

/** A value that is another one than the edit was made against. */
interface Conflict {
  productId: number;
  attribute: string;
  language: string | null;
  /** As it is now, and as it was to become. */
  current: string | null;
  yours: string | null;
  detail: string;
}

/** Saves edits of one or many products as one action; a conflict or a fault anywhere saves nothing, and all of them are told. */
export async function saveEdits(services: Services, user: User, list: ProductEdits[], words?: string): Promise<Effect> {
  const dictionary = await loadDictionary(services.db);
  const work = editing(list, user, dictionary, words);
  return (await act(services, user, { kind: 'edit', tells: ['catalog'] }, work)).effect;
}

/** What saving them would do to listings; refuses what saving them would refuse. Nothing is kept. */
export async function tryEdits(
  services: Pick<Services, 'db' | 'config'>,
  user: Pick<User, 'id'>,
  list: readonly ProductEdits[],
): Promise<TriedEffect> {
  const dictionary = await loadDictionary(services.db);
  const { left, ...effect } = await tryAct(services, user, { kind: 'edit' }, editing(list, user, dictionary));
  return { ...effect, whole: !left };
}

/** The work of saving edits, for an action that does so among other things. */
export function editing(
  list: readonly ProductEdits[],
  user: Pick<User, 'id'>,
  dictionary: Dictionary,
  words?: string,
): (on: Acting) => Promise<void> {
  return async (on) => {
    const products = [...new Set(list.map(({ productId }) => productId))];
    await lockUnits(on.tx, products);
    const slots = new Set(list.flatMap(({ edits }) => edits.flatMap((edit) => slotOf(edit, dictionary) ?? [])));
    const { held, units: loaded } = await heldWithin(on.tx, products, dictionary, slots);
    const said: string[] = [];
    const claims: WantedClaim[] = [];
    const fields = new Map<EditField, unknown[]>();
    const parsed = list.map(({ productId, edits }) => ({
      productId,
      edits: edits.map((each) => editSchema.parse(each)),
    }));
    const readers = await fieldReaders(on.tx, parsed, held, dictionary.currency);
    const conflicts: Conflict[] = [];
    const faults: { pointer: string; detail: string }[] = [];
    const seen = new Set<string>();
    for (const { productId, edits } of parsed) {
      const { product, slots } = held(productId);
      for (const edit of edits) {
        const cell = `${productId} ${edit.attribute} ${edit.language ?? ''}`;
        if (seen.has(cell)) throw badRequest(`${edit.attribute} of product ${productId} stands there twice`);
        seen.add(cell);
        const editField = fieldOf(edit.attribute);
        try {
          const wish =
            editField && readers.get(editField)?.({ productId, product, edit, currency: dictionary.currency });
          const label = wish?.label ?? wanted(edit, { productId, slots, dictionary, claims });
          if (editField && wish) {
            const wishes = fields.get(editField) ?? [];
            fields.set(editField, wishes);
            wishes.push(wish.wanted);
          }
          said.push(`${label} of ${product.sku ?? product.title ?? 'a product'}`);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          if (error.status === 412) conflicts.push({ productId, ...conflictOf(edit, error) });
          else if (error.status === 400)
            faults.push({ pointer: `/body/edits/${edit.attribute}`, detail: error.message });
          else throw error;
        }
      }
    }
    refuse(conflicts, faults);
    for (const [editField, wishes] of fields) on.change(...(await editField.write(on.tx, wishes, on.id)));
    const before = await writeClaims(on.tx, claims, user.id);
    on.change(
      ...claims.map(({ productId, slot, claim }, i) => ({
        kind: 'product' as const,
        id: productId,
        delta: { [`#${slot}`]: [before[i] ?? null, claim] },
      })),
    );
    const units = [...loaded.keys()];
    on.change(
      ...(fields.size > 0 || claims.some(({ claim }) => claim === null)
        ? await resolveUnits(on.tx, units, dictionary)
        : await resolveLoaded(on.tx, withClaims(loaded, claims, String(user.id)), dictionary)),
    );
    on.say(words ?? sayEdits(said));
    await on.dirty(units);
  };
}

/** For each field that is edited, what reads its edits. */
async function fieldReaders(
  tx: Executor,
  list: readonly { productId: number; edits: ParsedEdit[] }[],
  held: (id: number) => Held,
  currency: string,
): Promise<Map<EditField, (edit: FieldEdit) => FieldWish<unknown>>> {
  const byField = new Map<EditField, FieldEdit[]>();
  for (const { productId, edits } of list)
    for (const edit of edits) {
      const field = fieldOf(edit.attribute);
      if (!field) continue;
      const asked = byField.get(field) ?? [];
      byField.set(field, asked);
      asked.push({ productId, product: held(productId).product, edit, currency });
    }
  const readers = new Map<EditField, (edit: FieldEdit) => FieldWish<unknown>>();
  for (const [field, edits] of byField) readers.set(field, await field.reader(tx, edits));
  return readers;
}

const conflictOf = (edit: ParsedEdit, { extra, message }: Problem) => ({
  attribute: edit.attribute,
  language: edit.language,
  current: typeof extra.current === 'string' ? extra.current : null,
  yours: edit.text ?? null,
  detail: message,
});

function refuse(conflicts: readonly Conflict[], faults: readonly { pointer: string; detail: string }[]): void {
  const [fault] = faults;
  if (fault) throw badRequest(fault.detail, [...faults]);
  const [conflict] = conflicts;
  if (!conflict) return;
  const others = conflicts.length > 1 ? ` (and ${conflicts.length - 1} more)` : '';
  throw stale(`${conflict.detail}${others}`, { ...conflict, conflicts });
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

/** A claim a person wants to make; null lets the sources speak again. */
interface WantedClaim {
  productId: number;
  attributeId: number;
  language: string;
  slot: string;
  claim: KeptClaim;
}

/** The slot an edit is of; undefined where there is no such attribute. */
function slotOf({ attribute: key, language }: Pick<Edit, 'attribute' | 'language'>, { attributes, home }: Dictionary) {
  const attribute = attributes.get(key);
  return attribute?.perLanguage ? `${attribute.key}@${language ?? home}` : attribute?.key;
}

/** Adds the claim an edit asks for; answers its label. Throws where it cannot be read, or was made against another value. */
function wanted(
  edit: ParsedEdit,
  {
    productId,
    slots,
    dictionary,
    claims,
  }: { productId: number; slots: Slots; dictionary: Dictionary; claims: WantedClaim[] },
): string {
  const attribute = dictionary.attributes.get(edit.attribute);
  const attributeId = attribute && dictionary.ids.get(attribute.key);
  if (!attribute || attributeId === undefined) throw badRequest(`There is no attribute “${edit.attribute}”`);
  if (isComputed(attribute.key)) throw badRequest(`${attribute.label} follows from the sources; it cannot be edited`);
  const slot = slotOf(edit, dictionary) ?? attribute.key;
  const [, language = ''] = splitSlot(slot);
  const held = slots.get(slot)?.value;
  const current = held === undefined ? null : typedText(held, attribute);
  if (current !== edit.madeAgainst)
    throw stale(`${attribute.label} was changed meanwhile: it is now “${current ?? 'empty'}”`, {
      current,
      yours: edit.text ?? null,
      attribute: attribute.key,
    });
  const claim: KeptClaim = edit.letGo ? null : readEdit(edit.text ?? null, attribute);
  claims.push({ productId, attributeId, language, slot, claim });
  return attribute.label;
}

function readEdit(text: string | null, attribute: Attribute): KeptClaim {
  const read = readTyped(text, attribute);
  if ('reason' in read) throw badRequest(`${attribute.label}: ${read.reason}`);
  return read.claim;
}

/** Writes claims as sets; answers what each replaces. */
async function writeClaims(tx: Executor, claims: readonly WantedClaim[], actor: number): Promise<KeptClaim[]> {
  if (claims.length === 0) return [];
  const rows = claims.map(({ productId, attributeId, language, claim }) => ({
    product: productId,
    attribute: attributeId,
    lang: language,
    value: claim && 'value' in claim ? claim.value : null,
  }));
  const table = (list: readonly object[]) =>
    sql`jsonb_to_recordset(${json(list)}) AS t(product bigint, attribute bigint, lang text, value jsonb)`;
  const same = sql`e.product_id = t.product AND e.attribute_id = t.attribute AND e.lang = t.lang`;
  const held = await queryRows<{ product: number; attribute: number; lang: string; value: Value | null }>(
    tx,
    sql`SELECT t.product, t.attribute, t.lang, e.value FROM ${table(rows)} JOIN claim_edit e ON ${same}`,
  );
  const keyOf = (row: { product: number; attribute: number; lang: string }) =>
    `${row.product} ${row.attribute} ${row.lang}`;
  const byKey = new Map(held.map((row) => [keyOf(row), row.value === null ? emptied : { value: row.value }]));
  const letGo = rows.filter((_, i) => claims[i]?.claim === null);
  if (letGo.length > 0) await tx.execute(sql`DELETE FROM claim_edit e USING ${table(letGo)} WHERE ${same}`);
  const said = rows.filter((_, i) => claims[i]?.claim !== null);
  if (said.length > 0)
    await tx.execute(sql`
      INSERT INTO claim_edit (product_id, attribute_id, lang, value, actor)
      SELECT DISTINCT ON (t.product, t.attribute, t.lang) t.product, t.attribute, t.lang, t.value, ${actor} FROM ${table(said)}
      ON CONFLICT (product_id, attribute_id, lang) DO UPDATE SET value = excluded.value, actor = excluded.actor, at = now()`);
  return rows.map((row) => byKey.get(keyOf(row)) ?? null);
}

const emptied = { empty: true } as const;

/** Units with these claims made, as they would be loaded once they are written; none of them lets the sources speak again. */
function withClaims(
  loaded: ReadonlyMap<number, UnitSources>,
  claims: readonly WantedClaim[],
  by: string,
): UnitSources[] {
  const at = new Date().toISOString();
  const madeBy = groupBy(claims, ({ productId }) => productId);
  const edited = (id: number, edits: readonly Edited[]): Edited[] => {
    const made = (madeBy.get(id) ?? []).map(({ slot, claim }): Edited => {
      const value = claim && 'value' in claim ? claim.value : empty;
      return { slot, value, at, by };
    });
    const slots = new Set(made.map(({ slot }) => slot));
    return [...made, ...edits.filter(({ slot }) => !slots.has(slot))];
  };
  return [...loaded.values()].map((unit) => {
    const family = unit.products.find(({ kind }) => kind === 'family');
    const { claims: held } = unit;
    return {
      ...unit,
      claims: {
        ...held,
        familyEdits: family ? edited(family.id, held.familyEdits) : held.familyEdits,
        variants: held.variants.map((variant) => ({ ...variant, edits: edited(variant.id, variant.edits) })),
      },
    };
  });
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
  const { left, units, isOfGoods } = await undoEdit(tx, actionId, actor, dictionary);
  if (!isOfGoods) return { left };
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
): Promise<{ left: string[]; units: number[]; isOfGoods: boolean }> {
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
    isOfGoods: changes.length > 0,
    units: await unitsOf(
      tx,
      changes.map((change) => change.id),
    ),
  };
}
