/** Values that were found in texts: listed, taken as edits, turned down. */
import { type Effect, type FoundAnswer, type TakenValues, mostTaken } from '@velvet-shelf/contract';
import { formatValue, readTyped } from '@velvet-shelf/core/values';
import { type SQL, and, asc, desc, eq, gt, gte, isNull, lt, or, sql } from 'drizzle-orm';
import { type ProductEdits, saveEdits } from '../catalog/edit.js';
import { heldBy } from '../catalog/held.js';
import { typedText } from '../catalog/product.js';
import { type Database, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { noEffect } from '../history/effect.js';
import type { Services, User } from '../http/route.js';

const { foundValue, product, attribute } = tables;

/** From here on they are taken together. */
const sure = 0.9;

const open = and(eq(foundValue.declined, false), eq(product.stands, true));

interface FoundQuery {
  attribute?: string | undefined;
  gaps?: 'yes' | undefined;
  cursor?: string | undefined;
  limit: number;
}

export async function listFound(db: Database, query: FoundQuery, locale?: string) {
  const dictionary = await loadDictionary(db, locale);
  const rows = await db
    .select({
      id: foundValue.id,
      product: product.id,
      kind: product.kind,
      sku: product.sku,
      title: product.title,
      attribute: attribute.key,
      text: foundValue.value,
      held: foundValue.held,
      score: foundValue.score,
      likely,
      evidence: {
        language: foundValue.language,
        in: foundValue.part,
        before: foundValue.before,
        words: foundValue.words,
        after: foundValue.after,
      },
    })
    .from(foundValue)
    .innerJoin(product, eq(product.id, foundValue.productId))
    .innerJoin(attribute, eq(attribute.id, foundValue.attributeId))
    .where(
      and(
        open,
        query.attribute === undefined ? undefined : eq(attribute.key, query.attribute),
        query.gaps ? isNull(foundValue.held) : undefined,
        afterCursor(query.cursor),
      ),
    )
    .orderBy(desc(likely), asc(foundValue.id))
    .limit(query.limit + 1);
  const items = rows.slice(0, query.limit).map(({ likely: _score, ...row }) => show(row, dictionary));
  const last = rows.length > query.limit ? rows[query.limit - 1] : undefined;
  const counted = await db
    .select({
      attribute: attribute.key,
      open: sql<number>`count(*)::int`,
      sure: sql<number>`(count(*) FILTER (WHERE ${isSure(sure)}))::int`,
    })
    .from(foundValue)
    .innerJoin(product, eq(product.id, foundValue.productId))
    .innerJoin(attribute, eq(attribute.id, foundValue.attributeId))
    .where(open)
    .groupBy(attribute.key)
    .orderBy(desc(sql`count(*)`), attribute.key);
  return {
    items,
    next: last ? cursorOf(last) : null,
    attributes: counted.map((row) => ({
      ...row,
      label: dictionary.attributes.get(row.attribute)?.label ?? row.attribute,
    })),
  };
}

/** A cursor is one number: how likely, in ten thousandths, and behind it the row's own of so many digits. */
const likely = sql<number>`(${foundValue.score} * 10000)::int`;
const ownDigits = 1e11;
const cursorOf = ({ likely: score, id }: { likely: number; id: number }) => String(score * ownDigits + id);

function afterCursor(cursor: string | undefined): SQL | undefined {
  if (cursor === undefined) return undefined;
  const [score, id] = [Math.floor(Number(cursor) / ownDigits), Number(cursor) % ownDigits];
  return or(lt(likely, score), and(eq(likely, score), gt(foundValue.id, id)));
}

type Row = Omit<FoundAnswer, 'label' | 'shown'>;

function show(row: Row, { attributes, reader }: Dictionary): FoundAnswer {
  const own = attributes.get(row.attribute);
  const read = own && readTyped(row.text, own);
  const value = read && 'claim' in read && 'value' in read.claim ? read.claim.value : undefined;
  return {
    ...row,
    label: own?.label ?? row.attribute,
    shown: own && value !== undefined ? formatValue(value, own, reader) : row.text,
  };
}

/** So likely, and the goods have nothing there: nobody has to look at each. */
const isSure = (least: number) => and(gte(foundValue.score, sql`${least}::real`), isNull(foundValue.held));

/** Takes values as one edit. What goods hold otherwise by now than when the texts were read is left, and asked no more. */
export async function takeFound(
  services: Services,
  user: User,
  taken: TakenValues,
): Promise<Effect & { taken: number; left: number }> {
  const { db } = services;
  const dictionary = await loadDictionary(db);
  const rows = await db
    .select({
      id: foundValue.id,
      product: foundValue.productId,
      attribute: attribute.key,
      text: foundValue.value,
      held: foundValue.held,
    })
    .from(foundValue)
    .innerJoin(product, eq(product.id, foundValue.productId))
    .innerJoin(attribute, eq(attribute.id, foundValue.attributeId))
    .where(and(open, meant(taken)))
    .orderBy(desc(foundValue.score), asc(foundValue.id))
    .limit(mostTaken);
  if (rows.length === 0) return { ...noEffect(), taken: 0, left: 0 };
  const held = await heldBy(db, [...new Set(rows.map((row) => row.product))], dictionary);
  const now = (id: number, key: string): string | null => {
    const [own, value] = [dictionary.attributes.get(key), held(id).slots.get(key)?.value];
    return own && value !== undefined ? typedText(value, own) : null;
  };
  const standing = rows.filter((row) => now(row.product, row.attribute) === row.held);
  const edits = new Map<number, ProductEdits['edits']>();
  for (const { product: id, attribute: key, text, held: madeAgainst } of standing)
    edits.set(id, [...(edits.get(id) ?? []), { attribute: key, text, madeAgainst }]);
  const list = [...edits].map(([productId, each]) => ({ productId, edits: each }));
  const words = `Took ${standing.length} ${standing.length === 1 ? 'value' : 'values'} from texts`;
  const effect = list.length === 0 ? noEffect() : await saveEdits(services, user, list, words);
  await db.delete(foundValue).where(
    isIn(
      foundValue.id,
      rows.map(({ id }) => id),
    ),
  );
  services.notify('catalog');
  services.notify('found');
  return { ...effect, taken: standing.length, left: rows.length - standing.length };
}

const meant = (taken: TakenValues): SQL | undefined =>
  'ids' in taken
    ? isIn(foundValue.id, taken.ids)
    : and(isSure(taken.least), taken.attribute === null ? undefined : eq(attribute.key, taken.attribute));

export async function declineFound({ db, notify }: Services, which: readonly number[]): Promise<void> {
  await db.update(foundValue).set({ declined: true }).where(isIn(foundValue.id, which));
  notify('found');
}
