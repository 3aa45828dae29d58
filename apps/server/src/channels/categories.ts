/** Our categories on a channel: its tree, suggestions with their evidence, and what was chosen. */
import type { CategoryMapping, CategoryRow, Effect } from '@velvet-shelf/contract';
import { listOf } from '@velvet-shelf/core/values';
import { loadDictionary } from '../dictionary/dictionary.js';
import { parentPath, namesOf } from '@velvet-shelf/core/rulebooks';
import { sql, eq, and, isNotNull, inArray, count } from 'drizzle-orm';
import { act } from '../history/act.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { kept } from '../kept/keep.js';
import { adapterOf } from './adapters/index.js';
import { getPlace, rulebookOf } from './places.js';
import * as tables from '../db/schema/index.js';
import { suggestionsFor } from './suggestions.js';
import { targetsOf } from './tree.js';
import { mustKnow } from './comparing.js';
import { type CategoryMap, changedMap, mapDelta, mapOf, mappedInMarket, mapsOf, writeMaps } from './maps.js';

export async function showTree(services: Services, placeId: number) {
  const place = await getPlace(services.db, placeId);
  const rulebook = await rulebookOf(services.db, place);
  return {
    items: targetsOf(rulebook).map(({ path, names, isLeaf }) => ({ path, names, leaf: isLeaf })),
    leafOnly: rulebook.leafOnly,
    takesSecond: rulebook.secondCategory !== undefined,
    saysPlaces: adapterOf(place.adapter).placing !== undefined && place.accountState !== 'off',
  };
}

export async function showCategories(services: Services, placeId: number): Promise<CategoryRow[]> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const suggestions = await suggestionsFor(services, placeId);
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
  const ofMarket = new Set(await mappedInMarket(db, place));
  const faultOf = (target: string | null): string | null => {
    if (target === null) return null;
    if (!known.has(target)) return 'This category is not in the rulebook any more';
    return rulebook.leafOnly && parents.has(target)
      ? 'It has categories below it; the channel takes the last level only'
      : null;
  };
  const list = tree.values.map(({ key: category }): CategoryRow => {
    const { target = null, second = null, splits = [] } = mapped.get(category) ?? {};
    const fault = [target, ...splits.map((split) => split.target)].map(faultOf).find((each) => each !== null) ?? null;
    const variants = variantsOf.get(category) ?? 0;
    return {
      category,
      names: tree.names(category),
      variants,
      target,
      targetNames: target === null ? null : names(target),
      second: second ?? null,
      splits: [...splits],
      isOfMarket: ofMarket.has(category),
      fault,
      suggestions: (target === null || fault !== null) && variants > 0 ? (suggestions[category] ?? []) : [],
    };
  });
  const open = (row: CategoryRow) => row.variants > 0 && (row.target === null || row.fault !== null);
  return [...list.filter(open).sort((a, b) => b.variants - a.variants), ...list.filter((row) => !open(row))];
}

/** Saves category maps for all markets of the channel; the listings they touch are evaluated before this answers. */
export async function saveCategories(
  services: Services,
  user: User,
  placeId: number,
  maps: readonly CategoryMapping[],
  market = '',
): Promise<Effect> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  if (market !== '' && market !== place.market) throw badRequest(`${place.name} is not in the market “${market}”`);
  const rulebook = await rulebookOf(db, place);
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const targets = maps.flatMap(({ target, second, splits = [] }) => [
    ...[target, second],
    ...splits.flatMap((split) => [split.target, split.second]),
  ]);
  const wrong = targets.find((target) => typeof target === 'string' && !known.has(target));
  if (wrong) throw badRequest(`${place.channelName} has no category “${wrong}”`);
  if (rulebook.secondCategory === undefined && maps.some(({ second }) => second))
    throw badRequest(`${place.channelName} takes one category, and no further one`);
  const names = namesOf(rulebook);
  const { attributes } = await loadDictionary(db);
  mustKnow(
    attributes,
    maps.flatMap(({ splits = [] }, i) =>
      splits.map(({ condition }, n) => ({ condition, pointer: `/body/maps/${i}/splits/${n}/condition` })),
    ),
  );
  const tree = listOf(attributes, 'category');
  const stranger = maps.find(({ category, target }) => target !== null && !tree.has(category));
  if (stranger) throw badRequest(`There is no category “${stranger.category}” of ours`);
  const said = (category: string) => tree.say(category);
  const { effect } = await act(services, user, { kind: 'map-category' }, async (on) => {
    // Those that were made one with a category have a map of their own no longer once somebody maps it.
    const merged = [...tree.merged].flatMap(([key, now]) =>
      maps.some(({ category }) => category === now) ? [{ category: key, target: null }] : [],
    );
    const before: CategoryMap[] = [];
    const after: CategoryMap[] = [];
    for (const { category, ...to } of [...maps, ...merged]) {
      const slot = { category, market };
      const now = await mapOf(on.tx, place.channelId, slot);
      before.push({ ...slot, ...now });
      after.push({ ...slot, ...changedMap(now, to) });
    }
    const lost = after.find(({ target }, i) => market !== '' && target === null && before[i]?.target === null);
    if (lost) throw badRequest(`${said(lost.category)} is not mapped in ${market} alone: take it away for all markets`);
    await writeMaps(on, place.channelId, after);
    const [first] = maps;
    on.say(
      (maps.length > 1
        ? `Mapped ${maps.length} categories for ${place.channelName}`
        : first?.target
          ? `Mapped ${said(first.category)} to ${names(first.target).join(' / ')}`
          : `Took the ${place.channelName} category of ${said(first?.category ?? '')} away`) +
        (market === '' ? '' : `, in ${market} alone`),
    );
    on.change({ kind: 'channel', id: place.channelId, delta: mapDelta(before, after) });
  });
  return effect;
}
