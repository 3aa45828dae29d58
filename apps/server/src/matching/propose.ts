/** Looks through all goods for pairs that may be the same, and keeps those that wait for a person. */
import {
  type KnownWords,
  type MatchItem,
  findCandidates,
  learnWords,
  pairKey,
  type TraitKeys,
  type Traits,
  readTraits,
  traitKeys,
} from '@velvet-shelf/core/matching';
import { type Measure, type Money, type Value, foldCode, foldText, keyOf, withRole } from '@velvet-shelf/core/values';
import { type SQL, sql, eq, and } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { onClient, queryRows, type Executor, first } from '../db/client.js';
import { copyIn, copyLine } from '../db/copy.js';
import type { Services } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import { lockJoins } from './joins.js';
import { keepDoubts } from './doubted.js';
import type { JobContext } from '../jobs/define.js';
import { createJob } from '../jobs/run.js';
import * as jobs from './jobs.js';
import * as tables from '../db/schema/index.js';

/** Starts a look-through after a batch, unless one waits already. */
export async function proposeFor({ db }: Services, actor: number | undefined): Promise<number> {
  const job = await proposeIn(db, actor);
  runAside(job).catch(() => undefined);
  return job;
}

/** The same look-through as a job that the caller starts once its transaction has ended; one that waits already will do. */
export async function proposeIn(on: Executor, actor: number | undefined): Promise<number> {
  const waiting = await first(
    on
      .select({ id: tables.job.id })
      .from(tables.job)
      .where(and(eq(tables.job.kind, jobs.findMatches.kind), eq(tables.job.state, 'waiting')))
      .limit(1),
  );
  return waiting?.id ?? createJob(on, jobs.findMatches, { label: 'Looking for the same goods', input: {}, actor });
}

/** Job: proposes pairs anew. */
export async function findMatches({ db, services, progress }: JobContext): Promise<void> {
  const dictionary = await loadDictionary(db);
  const items = await loadItems(db, dictionary);
  await progress(0, items.length);
  const pairs = findCandidates(items, {
    knownWords: await knownWords(db, dictionary),
    learntWords: learnWords(await joinedTitles(db, dictionary)),
    decided: await decidedPairs(db),
  });
  await onClient(db, async ({ client, tx }) => {
    await lockJoins(tx);
    await client.query('DELETE FROM match_pair');
    await client.query('CREATE TEMP TABLE fresh (LIKE match_pair) ON COMMIT DROP');
    await copyIn(
      client,
      'fresh',
      ['a', 'b', 'score', 'evidence'],
      pairs.map(({ a, b, score, evidence }) => copyLine([a, b, score, evidence])),
    );
    await client.query('ANALYZE fresh');
    // Goods may have gone, been joined or been kept apart while we looked.
    await client.query(
      `INSERT INTO match_pair SELECT f.* FROM fresh f JOIN product x ON x.id = f.a AND x.stands JOIN product y ON y.id = f.b AND y.stands
       WHERE NOT EXISTS (SELECT 1 FROM record r JOIN record o ON o.product_id = f.b
         WHERE r.product_id = f.a AND (o.supplier_id = r.supplier_id AND o.content_id IS NOT NULL AND r.content_id IS NOT NULL
           OR (SELECT d.verdict FROM join_decision d WHERE d.a = least(r.id, o.id) AND d.b = greatest(r.id, o.id) ORDER BY d.action_id DESC LIMIT 1) = 'different'))`,
    );
  });
  await keepDoubts(db);
  await progress(items.length, items.length);
  services.notify('matches', { pairs: pairs.length });
}

/** What reading goods takes of the dictionary. */
interface Told {
  attributes: Dictionary['attributes'];
  /** Labels of sizes that people measure differently. */
  slack: readonly string[];
  traits: TraitKeys;
  /** Attributes whose words tell variants of a family apart. */
  worded: readonly string[];
}

/** Words that tell variants apart: what families name as an axis of theirs, and colours and sizes. */
async function wordedOf(db: Executor, { attributes }: Dictionary): Promise<string[]> {
  const axes = await db
    .selectDistinct({ axis: sql<string>`json_array_elements(${tables.product.options}) ->> 0` })
    .from(tables.product)
    .where(eq(tables.product.stands, true));
  const named = new Set(axes.map(({ axis }) => foldCode(axis)));
  return [...attributes.values()]
    .filter(({ type, many, perLanguage }) => (type === 'text' || type === 'choice') && !many && !perLanguage)
    .filter(
      ({ key, label, role }) =>
        role === 'colour' || role === 'size' || named.has(foldCode(key)) || named.has(foldCode(label)),
    )
    .map(({ key }) => key);
}

const mostRead = 20_000;

async function loadItems(db: Executor, dictionary: Dictionary): Promise<MatchItem[]> {
  const sized = [...dictionary.attributes.values()]
    .filter((attribute) => (attribute.type === 'measure' || attribute.type === 'number') && !attribute.many)
    .map((attribute) => attribute.key);
  const { attributes } = dictionary;
  const said = (key: string) => (dictionary.attributes.get(key)?.label ?? key).toLowerCase();
  const told: Told = {
    attributes,
    slack: withRole(attributes, 'weight').map(({ key }) => said(key)),
    traits: traitKeys(attributes),
    worded: await wordedOf(db, dictionary),
  };
  const items: MatchItem[] = [];
  const identifiers = await grouped(
    db,
    sql`SELECT r.product_id AS product, array_agg(j.kind || ' ' || j.key) AS list FROM join_proposal j JOIN record_key k ON k.kind = j.kind AND k.key = j.key
        JOIN record r ON r.id = k.record_id WHERE r.product_id IS NOT NULL AND j.reason <> 'stands-twice' GROUP BY 1`,
  );
  for (let after = 0; ;) {
    const found = await queryRows<MatchRow>(
      db,
      sql`SELECT p.id, p.brand, p.facts, p.options, (SELECT array_agg(value) FROM json_each_text(t.texts -> ${keyOf(dictionary.attributes, 'title') ?? ''}::text)) AS titles
          FROM product p LEFT JOIN product_text t ON t.product_id = p.id
          WHERE p.kind IN ('variant', 'single') AND p.stands AND p.id > ${after} ORDER BY p.id LIMIT ${mostRead}`,
    );
    const last = found.at(-1)?.id ?? after;
    const sources = await grouped(
      db,
      sql`SELECT product_id AS product, array_agg(supplier_id) AS list FROM record WHERE product_id > ${after} AND product_id <= ${last} AND content_id IS NOT NULL GROUP BY 1`,
    );
    for (const row of found) {
      const speaking = sources.get(row.id);
      if (speaking) items.push(toItem(row, speaking.map(Number), identifiers.get(row.id) ?? [], sized, said, told));
    }
    if (found.length < mostRead) return items;
    after = last;
  }
}

/** A product as a record would say it. */
const traitsOf = ({ titles, facts, options }: MatchRow, keys: TraitKeys): Traits =>
  readTraits(
    {
      values: { ...facts, ...Object.fromEntries((titles ?? []).map((title, i) => [`${keys.title?.key}@${i}`, title])) },
      options,
    },
    keys,
  );

interface MatchRow {
  options: [string, string][];
  id: number;
  titles: string[] | null;
  brand: string | null;
  facts: Record<string, Value>;
}

async function grouped(db: Executor, statement: SQL): Promise<Map<number, string[]>> {
  const found = await queryRows<{ product: number; list: string[] }>(db, statement);
  return new Map(found.map(({ product, list }) => [product, list]));
}

function toItem(
  row: MatchRow,
  sources: number[],
  identifiers: readonly string[],
  sized: readonly string[],
  said: (key: string) => string,
  { attributes, slack, traits, worded }: Told,
): MatchItem {
  const { facts } = row;
  const sizes: Record<string, number> = {};
  for (const key of sized) {
    const value = facts[key] as Measure | number | undefined;
    if (value !== undefined) sizes[said(key)] = typeof value === 'number' ? value : value.base;
  }
  const mpn = facts[keyOf(attributes, 'mpn') ?? ''];
  const words: Record<string, string> = {};
  for (const key of worded) if (typeof facts[key] === 'string') words[said(key)] = facts[key];
  const prices: Record<string, number> = {};
  for (const [role, kind] of [
    ['recommendedPrice', 'recommended'],
    ['purchasePrice', 'purchase'],
  ] as const) {
    const money = facts[keyOf(attributes, role) ?? ''] as Money | undefined;
    if (money) prices[`${kind} ${money.currency}`] = Number(money.amount);
  }
  const say = (key: string) =>
    key
      .replace(/^gtin 0*/, 'GTIN ')
      .replace(/^mpn /, 'brand + MPN ')
      .replace(/^number \d+:/, 'article number ');
  return {
    id: row.id,
    traits: traitsOf(row, traits),
    sources,
    titles: row.titles ?? [],
    brand: row.brand ?? undefined,
    mpn: typeof mpn === 'string' ? mpn : undefined,
    identifiers: identifiers.map(say),
    sizes,
    slack,
    words,
    prices,
  };
}

/** What words of different sources mean, from goods that are joined: each pair of words that stands there together twice. */
async function knownWords(db: Executor, dictionary: Dictionary): Promise<KnownWords> {
  const keys = await wordedOf(db, dictionary);
  const found = await queryRows<{ key: string; a: string; b: string }>(
    db,
    sql`SELECT k.key, x.content -> 'values' ->> k.key AS a, y.content -> 'values' ->> k.key AS b
        FROM record r JOIN record o ON o.product_id = r.product_id AND o.supplier_id <> r.supplier_id
        JOIN record_content x ON x.id = r.content_id JOIN record_content y ON y.id = o.content_id, unnest(ARRAY(SELECT jsonb_array_elements_text(${JSON.stringify(keys)}::jsonb))) k(key)
        WHERE x.content -> 'values' -> k.key IS NOT NULL AND y.content -> 'values' -> k.key IS NOT NULL GROUP BY 1, 2, 3 HAVING count(*) >= 2`,
  );
  const known = new Map<string, Map<string, Set<string>>>();
  for (const { key, a, b } of found) {
    const [mine, theirs] = [foldText(a), foldText(b)];
    if (mine === theirs) continue;
    const name = (dictionary.attributes.get(key)?.label ?? key).toLowerCase();
    const table = known.get(name) ?? new Map<string, Set<string>>();
    known.set(name, table);
    table.set(mine, (table.get(mine) ?? new Set()).add(theirs));
  }
  return known;
}

/** Of joined records, that many teach what words of titles mean. */
const mostTaught = 50_000;

/** Titles of two records of different suppliers that are the same goods, by pair. */
async function joinedTitles(db: Executor, { attributes }: Dictionary): Promise<[string[], string[]][]> {
  const key = keyOf(attributes, 'title');
  if (key === undefined) return [];
  const titles = (content: SQL) =>
    sql`(SELECT array_agg(value) FROM jsonb_each_text(${content}::jsonb -> 'values') WHERE split_part(key, '@', 1) = ${key})`;
  const found = await queryRows<{ a: string[] | null; b: string[] | null }>(
    db,
    sql`SELECT ${titles(sql`x.content`)} AS a, ${titles(sql`y.content`)} AS b
        FROM record r JOIN record o ON o.product_id = r.product_id AND o.id > r.id AND o.supplier_id <> r.supplier_id
        JOIN record_content x ON x.id = r.content_id JOIN record_content y ON y.id = o.content_id
        ORDER BY r.id, o.id LIMIT ${mostTaught}`,
  );
  return found.flatMap(({ a, b }): [string[], string[]][] => (a && b ? [[a, b]] : []));
}

/** Pairs of products that a person keeps apart. */
async function decidedPairs(db: Executor): Promise<Set<string>> {
  const found = await queryRows<{ a: number; b: number }>(
    db,
    sql`SELECT DISTINCT x.product_id AS a, y.product_id AS b FROM (SELECT DISTINCT ON (a, b) a, b, verdict FROM join_decision ORDER BY a, b, action_id DESC) d JOIN record x ON x.id = d.a JOIN record y ON y.id = d.b
        WHERE d.verdict = 'different' AND x.product_id IS NOT NULL AND y.product_id IS NOT NULL AND x.product_id <> y.product_id`,
  );
  return new Set(found.map(({ a, b }) => pairKey(Number(a), Number(b))));
}
