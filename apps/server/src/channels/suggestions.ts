/** Which of a channel's categories suit ours: all of them judged together, with titles of their goods, in a thread. */
import type { CategorySuggestion } from '@velvet-shelf/contract';
import { loadLexicon, suggestCategories } from '@velvet-shelf/core/categories';
import { keyOf, listOf } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Executor, queryRows } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { kept, nameOf } from '../kept/keep.js';
import { suggestTogether } from './jobs.js';
import { mapsOf } from './maps.js';
import { getPlace, rulebookOf } from './places.js';
import { targetsOf } from './tree.js';

const mostTitles = 12;
const mostSuggested = 4;

/** By our category: the best few of a place's tree, the likeliest first. */
export const suggestionsFor = (services: Services, place: number): Promise<Record<string, CategorySuggestion[]>> =>
  kept(services, nameOf('category-suggestions', place), () => apart(suggestTogether, services, { place }));

export async function suggest(on: Executor, placeId: number): Promise<Record<string, CategorySuggestion[]>> {
  const place = await getPlace(on, placeId);
  const rulebook = await rulebookOf(on, place);
  const dictionary = await loadDictionary(on);
  const tree = listOf(dictionary.attributes, 'category');
  const { language } = place;
  const target = targetsOf(rulebook);
  const titles = await titlesOf(on, keyOf(dictionary.attributes, 'title'), language);
  const maps = await mapsOf(on, place, tree);
  const found = suggestCategories({
    target,
    own: tree.values
      .filter(({ key }) => titles.has(key) || maps.has(key))
      .map(({ key }) => ({ path: key, names: tree.names(key, language), titles: titles.get(key) ?? [] })),
    chosen: [...maps].map(([own, to]) => ({ own, target: to.target })),
    language,
    leafOnly: rulebook.leafOnly,
    most: mostSuggested,
    lexicon: await loadLexicon(language),
  });
  const names = new Map(target.map((one) => [one.path, one.names]));
  return Object.fromEntries(
    [...found].map(([key, list]) => [
      key,
      list.map(({ path, p, evidence, isSure }) => ({
        ...{ path, evidence, isSure },
        names: names.get(path) ?? [],
        score: Math.min(99, Math.round(100 * p)),
      })),
    ]),
  );
}

/** By category: a dozen titles, of other families first, from all over it, in this language or in ours. */
export async function titlesOf(
  on: Executor,
  title: string | undefined,
  language: string,
): Promise<Map<string, string[]>> {
  const rows = await queryRows<{ category: string; titles: string[] }>(
    on,
    sql`WITH one AS (
          SELECT p.id, p.unit_id, p.category, p.title, row_number() OVER (PARTITION BY p.category, p.unit_id ORDER BY p.id) AS n FROM product p
          WHERE p.stands AND p.kind <> 'family' AND p.category IS NOT NULL AND p.title IS NOT NULL),
        few AS (SELECT *, row_number() OVER (PARTITION BY category ORDER BY n, hashint8(unit_id), unit_id) AS at FROM one)
        SELECT f.category, array_agg(coalesce(t.texts -> ${title ?? ''} ->> ${language}, f.title) ORDER BY f.at) AS titles
        FROM few f LEFT JOIN product_text t ON t.product_id = f.id WHERE f.at <= ${mostTitles} GROUP BY 1`,
  );
  return new Map(rows.map((row) => [row.category, row.titles]));
}
