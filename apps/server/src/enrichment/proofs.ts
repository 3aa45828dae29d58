/** What proofreading found: listed, mended as edits, left as it is. */
import { type Effect, type FaultKind, type TextFault, type UnknownWord, faultKinds } from '@velvet-shelf/contract';
import { plainTag } from '@velvet-shelf/core/enrichment';
import { type Attribute, canonical, foldText } from '@velvet-shelf/core/values';
import { and, asc, eq, gt, sql } from 'drizzle-orm';
import { type ProductEdits, saveEdits } from '../catalog/edit.js';
import { heldBy } from '../catalog/held.js';
import { typedText } from '../catalog/product.js';
import { type Database, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { noEffect } from '../history/effect.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { spellingOf } from './dictionaries.js';

const { textFault, product, attribute, knownWord } = tables;
/** Texts that are mended at once. */
const mostMended = 5000;

const open = and(eq(textFault.left, false), eq(product.stands, true));

export async function countFaults(db: Database) {
  const { languages } = await loadDictionary(db);
  const counted = await db
    .select({
      fault: textFault.fault,
      n: sql<number>`count(*)::int`,
      words: sql<number>`count(DISTINCT (${textFault.language}, lower(${textFault.word})))::int`,
    })
    .from(textFault)
    .innerJoin(product, eq(product.id, textFault.productId))
    .where(open)
    .groupBy(textFault.fault);
  const of = (kind: string) => counted.find(({ fault }) => fault === kind);
  const there = await Promise.all(languages.map(async (language) => (await spellingOf(language)) !== undefined));
  return {
    words: of('spelling')?.words ?? 0,
    faults: Object.fromEntries(faultKinds.map((kind) => [kind, of(kind)?.n ?? 0])) as Record<FaultKind, number>,
    dictionaries: languages.map((language, i) => ({ language, there: there[i] ?? false })),
  };
}

/** Where faults stand, of the products that stand. */
const places = (db: Database) =>
  db
    .select({
      id: textFault.id,
      product: product.id,
      kind: product.kind,
      sku: product.sku,
      title: product.title,
      attribute: attribute.key,
      language: textFault.language,
      before: textFault.before,
      words: textFault.words,
      after: textFault.after,
      details: textFault.details,
    })
    .from(textFault)
    .innerJoin(product, eq(product.id, textFault.productId))
    .innerJoin(attribute, eq(attribute.id, textFault.attributeId));

/** Faults about a word, however it is written at the beginning of a sentence. */
const isOfWord = (language: string, word: string) =>
  and(
    eq(textFault.fault, 'spelling'),
    eq(textFault.language, language),
    sql`lower(${textFault.word}) = ${word.toLowerCase()}`,
  );

const labelOf = ({ attributes }: Dictionary, key: string) => attributes.get(key)?.label ?? key;

/** Words by how many texts have them, one of the texts with each; the cursor counts those that were listed. */
export async function listWords(db: Database, { cursor = '0', limit }: { cursor?: string | undefined; limit: number }) {
  const dictionary = await loadDictionary(db);
  const from = Number(cursor);
  const words = await db
    .select({
      word: sql<string>`min(${textFault.word})`,
      language: textFault.language,
      texts: sql<number>`count(*)::int`,
      example: sql<number>`min(${textFault.id})`,
    })
    .from(textFault)
    .innerJoin(product, eq(product.id, textFault.productId))
    .where(and(open, eq(textFault.fault, 'spelling')))
    .groupBy(textFault.language, sql`lower(${textFault.word})`)
    .orderBy(sql`count(*) DESC`, sql`min(${textFault.id})`)
    .offset(from)
    .limit(limit + 1);
  const shown = words.slice(0, limit);
  const examples = await places(db).where(
    isIn(
      textFault.id,
      shown.map(({ example }) => Number(example)),
    ),
  );
  const byId = new Map(examples.map((row) => [row.id, row]));
  const items = shown.flatMap(({ word, language, texts, example }): UnknownWord[] => {
    const row = byId.get(Number(example));
    if (!row) return [];
    const suggestions = (row.details.suggestions ?? []) as string[];
    return [{ word, language, texts, suggestions, example: { ...row, label: labelOf(dictionary, row.attribute) } }];
  });
  return { items, next: words.length > limit ? String(from + limit) : null };
}

export async function listFaults(
  db: Database,
  { fault, cursor, limit }: { fault: FaultKind; cursor?: string | undefined; limit: number },
) {
  const dictionary = await loadDictionary(db);
  const rows = await places(db)
    .where(and(open, eq(textFault.fault, fault), cursor === undefined ? undefined : gt(textFault.id, Number(cursor))))
    .orderBy(asc(textFault.id))
    .limit(limit + 1);
  const shown = rows.slice(0, limit);
  const others = shown.flatMap(({ details }) => (typeof details.other === 'number' ? [details.other] : []));
  const titles = new Map(
    (await db.select({ id: product.id, title: product.title }).from(product).where(isIn(product.id, others))).map(
      ({ id, title }) => [id, title],
    ),
  );
  const items = shown.map(({ before: _b, after: _a, words, details, ...at }): TextFault => ({
    ...at,
    label: labelOf(dictionary, at.attribute),
    excerpt: words,
    said: {
      ...details,
      fault,
      ...(fault === 'repeated' ? { otherTitle: titles.get(Number(details.other)) ?? null } : {}),
      ...(fault === 'language' ? { to: keptAs(details.language, dictionary) } : {}),
    } as TextFault['said'],
  }));
  return { items, next: rows.length > limit ? String(shown.at(-1)?.id ?? '') : null };
}

/** The language texts are kept in (BCP 47) that a language is, whatever its region. */
const keptAs = (language: unknown, { languages }: Dictionary): string | null =>
  languages.find((tag) => plainTag(tag) === language) ?? null;

/** Keeps texts under the language they are in; where there is another text already, both stay as they are. */
export async function moveTexts(
  services: Services,
  user: User,
  which: readonly number[],
): Promise<Effect & { texts: number; left: number }> {
  const { db } = services;
  const dictionary = await loadDictionary(db);
  const rows = await places(db)
    .where(and(open, eq(textFault.fault, 'language'), isIn(textFault.id, which)))
    .orderBy(asc(textFault.id));
  const held = await heldBy(db, [...new Set(rows.map((row) => row.product))], dictionary);
  const moved: number[] = [];
  // Of two texts that go to one place the second stays.
  const goals = new Set<string>();
  const edits = new Map<number, ProductEdits['edits']>();
  for (const { id, product: productId, attribute: key, language: from, details } of rows) {
    const [own, to, { slots }] = [
      dictionary.attributes.get(key),
      keptAs(details.language, dictionary),
      held(productId),
    ];
    const [value, there] = [slots.get(`${key}@${from}`)?.value, slots.get(`${key}@${to ?? ''}`)?.value];
    const goal = `${productId} ${key} ${to}`;
    const isFree = !goals.has(goal) && (there === undefined || canonical(there) === canonical(value ?? null));
    if (!own || to === null || value === undefined || !isFree) continue;
    goals.add(goal);
    const text = typedText(value, own);
    const mine = edits.get(productId) ?? [];
    edits.set(productId, mine);
    mine.push({ attribute: key, language: from, text: null, madeAgainst: text });
    if (there === undefined) mine.push({ attribute: key, language: to, text, madeAgainst: null });
    moved.push(id);
  }
  const left = rows.length - moved.length;
  if (moved.length === 0) return { ...noEffect(), texts: 0, left };
  const list = [...edits].map(([productId, each]) => ({ productId, edits: each }));
  const texts = moved.length === 1 ? 'a text' : `${moved.length} texts`;
  const effect = await saveEdits(services, user, list, `Kept ${texts} under the language they are in`);
  await db.delete(textFault).where(isIn(textFault.id, moved));
  services.notify('proofreading');
  return { ...effect, texts: moved.length, left };
}

/** Writes another word for one in all open texts that have it, as one edit; a capital at its beginning stays one. */
export async function replaceWord(
  services: Services,
  user: User,
  { word, language, by }: { word: string; language: string; by: string },
): Promise<Effect & { texts: number }> {
  const { db } = services;
  const dictionary = await loadDictionary(db);
  const rows = await places(db)
    .where(and(open, isOfWord(language, word)))
    .orderBy(asc(textFault.id))
    .limit(mostMended);
  if (rows.length === 0) throw badRequest(`No text has “${word}” any more`);
  const held = await heldBy(db, [...new Set(rows.map((row) => row.product))], dictionary);
  const edits = new Map<string, { productId: number; edit: ProductEdits['edits'][number] }>();
  for (const { product: productId, attribute: key } of rows) {
    const own = dictionary.attributes.get(key);
    const value = held(productId).slots.get(`${key}@${language}`)?.value;
    if (!own || typeof value !== 'string') continue;
    const text = rewrite(value, word, by, own);
    if (text !== value)
      edits.set(`${productId} ${key}`, {
        productId,
        edit: { attribute: key, language, text, madeAgainst: typedText(value, own) },
      });
  }
  const list = [...edits.values()].map(({ productId, edit }) => ({ productId, edits: [edit] }));
  const texts = list.length === 1 ? 'a text' : `${list.length} texts`;
  const effect =
    list.length === 0 ? noEffect() : await saveEdits(services, user, list, `Wrote “${by}” for “${word}” in ${texts}`);
  await db.delete(textFault).where(
    isIn(
      textFault.id,
      rows.map(({ id }) => id),
    ),
  );
  services.notify('proofreading');
  return { ...effect, texts: list.length };
}

/** Whole words alone, and in markup what is written, not what it is written with. */
function rewrite(value: string, word: string, by: string, { type }: Attribute): string {
  const quoted = word.replace(/[.*+?^${}()|[\]\\]/gu, '\\$&');
  const whole = new RegExp(`(?<![\\p{L}\\p{M}\\p{N}])${quoted}(?![\\p{L}\\p{M}\\p{N}])`, 'giu');
  const put = (text: string) =>
    text.replace(whole, (found) => (/^\p{Lu}/u.test(found) ? by.slice(0, 1).toUpperCase() + by.slice(1) : by));
  if (type !== 'richText') return put(value);
  return value.replace(/<[^>]*>|[^<]+/gu, (part) => (part.startsWith('<') ? part : put(part)));
}

export async function knowWord({ db, notify }: Services, { word, language }: { word: string; language: string }) {
  const { languages } = await loadDictionary(db);
  if (!languages.includes(language)) throw badRequest(`Texts are not kept in ${language}`);
  await db.transaction(async (tx) => {
    await tx
      .insert(knownWord)
      .values({ language, word: foldText(word) })
      .onConflictDoNothing();
    await tx.delete(textFault).where(isOfWord(language, word));
  });
  notify('proofreading');
}

export async function leaveFaults({ db, notify }: Services, which: readonly number[]): Promise<void> {
  await db.update(textFault).set({ left: true }).where(isIn(textFault.id, which));
  notify('proofreading');
}
