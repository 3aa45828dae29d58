/** Job: reads the texts of goods for what is wrong with them. */
import { createHash } from 'node:crypto';
import {
  type Kept,
  type Speller,
  compileSpeller,
  findRepeated,
  hardness,
  readingOf,
  wrongLanguage,
} from '@velvet-shelf/core/enrichment';
import { splitSlot } from '@velvet-shelf/core/claims';
import { type Attribute, closedList, plainText } from '@velvet-shelf/core/values';
import { eq, sql } from 'drizzle-orm';
import { heldIn } from '../catalog/held.js';
import { type Executor, ids, json, queryRows, texts as textArray } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import type { JobContext } from '../jobs/define.js';
import { spellingOf } from './dictionaries.js';
import type { UnitsInput } from './jobs.js';

const atOnce = 200;
/** Signs of a text that are shown around what is meant. */
const around = 40;
const mostShown = 160;

interface Fault {
  product: number;
  attribute: number;
  language: string;
  fault: (typeof tables.textFault.$inferSelect)['fault'];
  word: string;
  before: string;
  words: string;
  after: string;
  details: Record<string, unknown>;
  hash: string;
}

/** Unit by unit in their order, and at the end all texts against each other; taken up again where it was left, twice is as once. */
export async function proofread(context: JobContext<UnitsInput>): Promise<void> {
  const { db, services, input, checkpoint, progress, saveCheckpoint, cancelled, finish } = context;
  const { units } = input;
  const dictionary = await loadDictionary(db);
  const read = await compileReading(db, dictionary);
  for (let done = Number(checkpoint?.done ?? 0); done < units.length; done += atOnce) {
    await progress(done, units.length);
    if (await cancelled()) break;
    const part = units.slice(done, done + atOnce);
    await db.transaction(async (tx) => {
      const { products, faults } = await readUnits(tx, part, dictionary, read);
      await keep(tx, products, ['spelling', 'language', 'hard'], faults);
      await saveCheckpoint(tx, { done: done + part.length });
    });
  }
  await progress(units.length, units.length);
  await db.transaction(async (tx) => {
    if (!(await cancelled())) await readRepeated(tx, units, dictionary);
    await finish(tx);
  });
  services.notify('proofreading');
}

/** Texts that are read: those kept by language, and of those without one none, for nobody knows how to read them. */
const isRead = ({ type, perLanguage }: Attribute): boolean => perLanguage && (type === 'text' || type === 'richText');

type Reading = (text: string, attribute: Attribute, language: string) => Omit<Fault, 'product' | 'attribute'>[];

/** Judges one text by itself. */
async function compileReading(db: Executor, dictionary: Dictionary): Promise<Reading> {
  const { languages } = dictionary;
  const spellers = new Map<string, Speller>();
  const names = await namesOf(db, dictionary);
  for (const language of languages) {
    const files = await spellingOf(language);
    if (!files) continue;
    const own = await db
      .select({ word: tables.knownWord.word })
      .from(tables.knownWord)
      .where(eq(tables.knownWord.language, language));
    spellers.set(language, compileSpeller(files, language, [...names, ...own.map(({ word }) => word)]));
  }
  const suggested = new Map<string, string[]>();
  const suggest = (speller: Speller, language: string, word: string): string[] => {
    const key = `${language} ${word}`;
    const known = suggested.get(key) ?? speller.suggest(word);
    suggested.set(key, known);
    return known;
  };
  return (held, { type }, language) => {
    const text = type === 'richText' ? plainText(held) : held;
    const hash = hashOf(text);
    const bare = { language, word: '', before: '', after: '', hash };
    const start = text.slice(0, mostShown);
    const other = wrongLanguage(text, language, languages);
    // Of a text in another language nothing else is worth saying.
    if (other) return [{ ...bare, fault: 'language', words: start, details: { language: other.language } }];
    const faults: Omit<Fault, 'product' | 'attribute'>[] = [];
    const speller = spellers.get(language);
    const told = new Set<string>();
    for (const { word, start: from, end } of speller?.misspelt(text, type === 'text') ?? []) {
      if (told.has(word) || !speller) continue;
      told.add(word);
      const [before, after] = [text.slice(Math.max(0, from - around), from), text.slice(end, end + around)];
      const details = { suggestions: suggest(speller, language, word) };
      faults.push({ ...bare, fault: 'spelling', word, before, words: word, after, details });
    }
    if (type !== 'richText') return faults;
    const reading = readingOf(text, language);
    const hard = hardness(reading);
    if (hard) {
      const { start: from, end, words } = reading.longest;
      const meant = hard === 'sentence' ? text.slice(from, end).slice(0, 2 * mostShown) : start;
      const details = {
        lix: reading.lix,
        words: hard === 'sentence' ? words : reading.words,
        sentence: hard === 'sentence',
      };
      faults.push({ ...bare, fault: 'hard', words: meant, details });
    }
    return faults;
  };
}

/** Brands and values of lists are names: whoever keeps them has spelt them. */
async function namesOf(db: Executor, { attributes }: Dictionary): Promise<string[]> {
  const brands = await db
    .selectDistinct({ brand: tables.product.brand })
    .from(tables.product)
    .where(eq(tables.product.stands, true));
  const listed = [...attributes.values()].flatMap(
    (attribute) =>
      closedList(attribute)?.values.flatMap(({ key, names }) => [key, ...Object.values(names ?? {})]) ?? [],
  );
  return [...brands.flatMap(({ brand }) => brand ?? []), ...listed];
}

const hashOf = (text: string): string => createHash('sha256').update(text).digest('base64url').slice(0, 22);

async function readUnits(tx: Executor, units: readonly number[], dictionary: Dictionary, read: Reading) {
  const faults: Fault[] = [];
  const products: number[] = [];
  for (const { product, slots } of await heldIn(tx, units, dictionary)) {
    products.push(product.id);
    for (const [slot, { value, inherited }] of slots) {
      if (inherited || typeof value !== 'string') continue;
      const [key, language = ''] = splitSlot(slot);
      const [attribute, attributeId] = [dictionary.attributes.get(key), dictionary.ids.get(key)];
      if (!attribute || attributeId === undefined || !isRead(attribute)) continue;
      for (const fault of read(value, attribute, language))
        faults.push({ ...fault, product: product.id, attribute: attributeId });
    }
  }
  return { products, faults };
}

/** Long texts of these goods against those of all; what a variant has from its family is the family's. */
async function readRepeated(tx: Executor, units: readonly number[], dictionary: Dictionary): Promise<void> {
  const chosen = new Set(units);
  const faults: Fault[] = [];
  const products = new Set<number>();
  for (const [key, attribute] of dictionary.attributes) {
    const attributeId = dictionary.ids.get(key);
    if (attribute.type !== 'richText' || !isRead(attribute) || attributeId === undefined) continue;
    for (const language of dictionary.languages) {
      const said = (table: string) => sql.raw(`${table}.texts`);
      const rows = await queryRows<{ id: number; unit: number; text: string }>(
        tx,
        sql`SELECT p.id, p.unit_id AS unit, ${said('t')} -> ${key}::text ->> ${language}::text AS text
            FROM product p JOIN product_text t ON t.product_id = p.id LEFT JOIN product_text f ON f.product_id = p.family_id
            WHERE p.stands AND ${said('t')} -> ${key}::text ->> ${language}::text <> ''
              AND ${said('t')} -> ${key}::text ->> ${language}::text IS DISTINCT FROM ${said('f')} -> ${key}::text ->> ${language}::text
            ORDER BY p.id`,
      );
      const unitOf = new Map(rows.map(({ id, unit }) => [id, unit]));
      const texts = new Map(rows.map(({ id, text }) => [id, plainText(text)]));
      const kept: Kept[] = rows.map(({ id, unit }) => ({ id, family: unit, text: texts.get(id) ?? '' }));
      for (const { id, other, share, others, isSibling } of findRepeated(kept)) {
        if (!chosen.has(unitOf.get(id) ?? 0)) continue;
        const text = texts.get(id) ?? '';
        faults.push({
          ...{ product: id, attribute: attributeId, language, fault: 'repeated', word: '', before: '', after: '' },
          ...{ words: text.slice(0, mostShown), hash: hashOf(text) },
          details: { other, share: Math.round(100 * share), others, isSibling },
        });
      }
      for (const { id, unit } of rows) if (chosen.has(unit)) products.add(id);
    }
  }
  await keep(tx, [...products], ['repeated'], faults);
}

/** What is found no more goes; what was left stays so as long as the text says the same. */
async function keep(
  tx: Executor,
  products: readonly number[],
  kinds: readonly Fault['fault'][],
  faults: readonly Fault[],
) {
  const table = sql`jsonb_to_recordset(${json(faults)}) AS t(product bigint, attribute bigint, language text, fault text, word text,
    before text, words text, after text, details jsonb, hash text)`;
  await tx.execute(sql`
    DELETE FROM text_fault f WHERE f.product_id = ANY(${ids(products)}) AND f.fault = ANY(${textArray([...kinds])})
      AND NOT EXISTS (SELECT 1 FROM ${table} WHERE t.product = f.product_id AND t.attribute = f.attribute_id
        AND t.language = f.language AND t.fault = f.fault AND t.word = f.word)`);
  if (faults.length === 0) return;
  await tx.execute(sql`
    INSERT INTO text_fault (product_id, attribute_id, language, fault, word, before, words, after, details, hash)
    SELECT product, attribute, language, fault, word, before, words, after, details, hash FROM ${table}
    ON CONFLICT (product_id, attribute_id, language, fault, word) DO UPDATE SET before = excluded.before, words = excluded.words,
      after = excluded.after, details = excluded.details, hash = excluded.hash, "left" = text_fault."left" AND text_fault.hash = excluded.hash`);
}
