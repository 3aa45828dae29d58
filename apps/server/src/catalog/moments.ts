/** Two moments of a product against each other, and values put back to what they were. */
import type { Difference, Effect } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { splitSlot } from '@velvet-shelf/core/claims';
import { type Value, canonical } from '@velvet-shelf/core/values';
import { and, asc, eq, gt, lte } from 'drizzle-orm';
import { type Database, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { saveEdits } from './edit.js';
import { heldBy } from './held.js';
import { sayDelta, sayField, typedText } from './product.js';

const { change, action } = tables;

interface Moved {
  before: unknown;
  after: unknown;
}

/** By field: what it was right after `from`, and after `to` (or now), where that is not the same. */
async function movedBetween(
  db: Database,
  id: number,
  from: number,
  to: number | undefined,
): Promise<Map<string, Moved>> {
  const there = await first(
    db
      .select({ id: change.actionId })
      .from(change)
      .where(and(eq(change.subjectKind, 'product'), eq(change.subjectId, id), eq(change.actionId, from))),
  );
  if (!there) throw notFound(`action ${from} in the history of product ${id}`);
  const changes = await db
    .select({ delta: change.delta })
    .from(change)
    .innerJoin(action, eq(action.id, change.actionId))
    .where(
      and(
        eq(change.subjectKind, 'product'),
        eq(change.subjectId, id),
        gt(change.actionId, from),
        to === undefined ? undefined : lte(change.actionId, to),
      ),
    )
    .orderBy(asc(change.actionId));
  const moved = new Map<string, Moved>();
  for (const { delta } of changes)
    for (const [field, [before = null, after = null]] of Object.entries(delta)) {
      if (field.startsWith('#') || field === 'created') continue;
      const known = moved.get(field);
      if (known) known.after = after;
      else moved.set(field, { before, after });
    }
  for (const [field, { before, after }] of moved) if (canonical(before) === canonical(after)) moved.delete(field);
  return moved;
}

/** The attribute of a field a person can say, with its language. */
function spoken(field: string, { attributes }: Dictionary) {
  const [key, language] = splitSlot(field);
  const attribute = attributes.get(key);
  return attribute && !isComputed(key) ? { attribute, language: language ?? null } : undefined;
}

export async function compareMoments(
  db: Database,
  id: number,
  { from, to }: { from: number; to?: number | undefined },
  locale?: string,
): Promise<Difference[]> {
  const dictionary = await loadDictionary(db, locale);
  const moved = await movedBetween(db, id, from, to);
  const { slots } = (await heldBy(db, [id], dictionary))(id);
  return [...moved].map(([field, { before, after }]) => {
    const said = spoken(field, dictionary);
    const value = slots.get(field)?.value;
    return {
      field,
      label: sayField(field, dictionary),
      before: sayDelta(field, before, dictionary),
      after: sayDelta(field, after, dictionary),
      ...(said ? { now: value === undefined ? null : typedText(value, said.attribute) } : {}),
    };
  });
}

/** Says again, as a person's word, what the product had right after `from`. */
export async function putBack(
  services: Services,
  user: User,
  id: number,
  { from, fields }: { from: number; fields: readonly { field: string; madeAgainst: string | null }[] },
): Promise<Effect> {
  const { db } = services;
  const dictionary = await loadDictionary(db);
  const moved = await movedBetween(db, id, from, undefined);
  const edits = fields.map(({ field, madeAgainst }) => {
    const [said, was] = [spoken(field, dictionary), moved.get(field)];
    if (!said) throw badRequest(`${sayField(field, dictionary)} cannot be put back by itself`);
    if (!was) throw badRequest(`${sayField(field, dictionary)} is what it was`);
    const { attribute, language } = said;
    const before = was.before as Value | null;
    return {
      attribute: attribute.key,
      language,
      text: before === null ? null : typedText(before, attribute),
      madeAgainst,
    };
  });
  const words = edits.length === 1 ? 'a value back to what it was' : `${edits.length} values back to what they were`;
  return saveEdits(services, user, [{ productId: id, edits }], `Put ${words}`);
}
