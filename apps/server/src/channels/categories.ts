/** Our categories on a channel: its tree, suggestions with their evidence, and what was chosen. */
import type { CategoryRow, Effect } from '@velvet-shelf/contract';
import { listOf } from '@velvet-shelf/core/values';
import { loadDictionary } from '../dictionary/dictionary.js';
import { type CategorySuggestion, compileSuggester } from '@velvet-shelf/core/categories';
import { type Rulebook, parentPath } from '@velvet-shelf/core/rulebooks';
import { sql, eq, ne, and, isNotNull, inArray, count } from 'drizzle-orm';
import { type Executor } from '../db/client.js';
import { act } from '../history/act.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { kept } from '../kept/keep.js';
import { type PlaceRow, getPlace, rulebookOf } from './places.js';
import * as tables from '../db/schema/index.js';
import { type CategoryMap, mapDelta, mapOf, mapsOf, writeMaps } from './maps.js';

/** Names from the root to a category. */
export function namesOf(rulebook: Rulebook): (path: string) => string[] {
  const names = new Map(rulebook.categories.map(({ path, name }) => [path, name]));
  const walk = (path: string | undefined): string[] =>
    path === undefined ? [] : [...walk(parentPath(path)), names.get(path) ?? path];
  return walk;
}

export async function showTree(services: Services, placeId: number) {
  const rulebook = await rulebookOf(services.db, await getPlace(services.db, placeId));
  const names = namesOf(rulebook);
  const parents = new Set(rulebook.categories.map(({ path }) => parentPath(path)));
  return {
    items: rulebook.categories.map(({ path }) => ({ path, names: names(path), leaf: !parents.has(path) })),
    leafOnly: rulebook.leafOnly,
  };
}

/** A suggester for a place's tree, given where our other categories went. */
export async function suggestFor(
  on: Executor,
  place: PlaceRow,
): Promise<{ rulebook: Rulebook; suggest: (category: string, most: number) => Promise<CategorySuggestion[]> }> {
  const rulebook = await rulebookOf(on, place);
  const names = namesOf(rulebook);
  const parents = new Set(rulebook.categories.map(({ path }) => parentPath(path)));
  const suggester = compileSuggester(
    rulebook.categories.map(({ path, words }) => ({
      path,
      names: names(path),
      words: words ?? '',
      isLeaf: !parents.has(path),
    })),
  );
  const own = listOf((await loadDictionary(on)).attributes, 'category');
  const maps = [...(await mapsOf(on, place, own))];
  return {
    rulebook,
    suggest: async (category, most) => {
      const titles = await on
        .select({ title: sql<string>`${tables.product.title}` })
        .from(tables.product)
        .where(
          and(
            eq(tables.product.category, category),
            isNotNull(tables.product.title),
            ne(tables.product.kind, 'family'),
            eq(tables.product.stands, true),
          ),
        )
        .orderBy(tables.product.id)
        .limit(12);
      const [root] = own.names(category);
      const neighbours = maps
        .filter(([mapped]) => mapped !== category && own.names(mapped)[0] === root)
        .map(([mapped, chosen]) => ({ names: own.names(mapped), chosen, chosenNames: names(chosen) }));
      return suggester({ names: own.names(category), titles: titles.map((title) => title.title), neighbours }, most);
    },
  };
}

export async function showCategories(services: Services, placeId: number): Promise<CategoryRow[]> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const { rulebook, suggest } = await suggestFor(db, place);
  const names = namesOf(rulebook);
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const parents = new Set(rulebook.categories.map(({ path }) => parentPath(path)));
  const counts = await kept(services, 'categories', () =>
    db
      .select({ category: sql<string>`${tables.product.category}`, variants: count() })
      .from(tables.product)
      .where(
        and(
          inArray(tables.product.kind, ['variant', 'single']),
          eq(tables.product.stands, true),
          isNotNull(tables.product.category),
        ),
      )
      .groupBy(tables.product.category),
  );
  const variantsOf = new Map(counts.map(({ category, variants }) => [category, variants]));
  const tree = listOf((await loadDictionary(db)).attributes, 'category');
  const mapped = await mapsOf(db, place, tree);
  const own = tree.values.map(({ key }) => ({ category: key, target: mapped.get(key) ?? null }));
  const list = await Promise.all(
    own.map(async ({ category, target }): Promise<CategoryRow> => {
      const variants = variantsOf.get(category) ?? 0;
      return {
        category,
        names: tree.names(category),
        variants,
        target,
        targetNames: target === null ? null : names(target),
        fault:
          target === null
            ? null
            : !known.has(target)
              ? 'This category is not in the rulebook any more'
              : rulebook.leafOnly && parents.has(target)
                ? 'It has categories below it; the channel takes the last level only'
                : null,
        suggestions:
          (target === null || !known.has(target) || (rulebook.leafOnly && parents.has(target))) && variants > 0
            ? await suggest(category, 4)
            : [],
      };
    }),
  );
  const open = (row: CategoryRow) => row.variants > 0 && (row.target === null || row.fault !== null);
  return [...list.filter(open).sort((a, b) => b.variants - a.variants), ...list.filter((row) => !open(row))];
}

/** Saves category maps for all markets of the channel; the listings they touch are evaluated before this answers. */
export async function saveCategories(
  services: Services,
  user: User,
  placeId: number,
  maps: readonly { category: string; target: string | null }[],
): Promise<Effect> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const wrong = maps.find(({ target }) => target !== null && !known.has(target));
  if (wrong) throw badRequest(`${place.channelName} has no category “${wrong.target}”`);
  const names = namesOf(rulebook);
  const tree = listOf((await loadDictionary(db)).attributes, 'category');
  const stranger = maps.find(({ category, target }) => target !== null && !tree.has(category));
  if (stranger) throw badRequest(`There is no category “${stranger.category}” of ours`);
  const said = (category: string) => tree.say(category);
  const { effect } = await act(services, user, { kind: 'map-category' }, async (on) => {
    // Those that were made one with a category have a map of their own no longer once somebody maps it.
    const merged = [...tree.merged].flatMap(([key, now]) =>
      maps.some(({ category }) => category === now) ? [{ category: key, target: null }] : [],
    );
    const after = [...maps, ...merged].map((map): CategoryMap => ({ ...map, market: '' }));
    const before: CategoryMap[] = [];
    for (const map of after) before.push({ ...map, target: await mapOf(on.tx, place.channelId, map) });
    await writeMaps(on, place.channelId, after);
    const [first] = maps;
    on.say(
      maps.length > 1
        ? `Mapped ${maps.length} categories for ${place.channelName}`
        : first?.target
          ? `Mapped ${said(first.category)} to ${names(first.target).join(' / ')}`
          : `Took the ${place.channelName} category of ${said(first?.category ?? '')} away`,
    );
    on.change({ kind: 'channel', id: place.channelId, delta: mapDelta(before, after) });
  });
  return effect;
}
