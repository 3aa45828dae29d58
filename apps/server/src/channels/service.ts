/** Places, category maps, fills and rulebooks. */
import type { CategoryRow, ChannelAttributeAnswer, PlaceAnswer } from '@velvet-shelf/contract';
import { type CategorySuggestion, compileSuggester } from '@velvet-shelf/core/categories';
import { checkMeta, valueChecks } from '@velvet-shelf/core/checks';
import type { Fill } from '@velvet-shelf/core/fills';
import { compilePlace, sayChannelValue, sourcesFor } from '@velvet-shelf/core/listings';
import {
  type ChannelAttribute,
  type Rulebook,
  compareRulebooks,
  loadRulebook,
  parentPath,
} from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { loadDictionary } from '../catalog/dictionary.js';
import { type Executor, json, one, rows } from '../db/client.js';
import { recordAction } from '../history/record.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { dirtyCount, markPlace } from '../listings/dirty.js';
import { type Effect, drain, todayText } from '../listings/evaluate.js';
import { loadFamilies } from '../listings/families.js';
import { type PlaceRow, type SetupChange, getPlace, listPlaces, loadSetup, mediaAddress } from './setup.js';
import { sayCause } from '../causes/words.js';
import { tryChange } from './what-if.js';

export async function showPlaces({ db }: Services): Promise<PlaceAnswer[]> {
  const totals = await rows<{ place: number; readiness: string; channelState: string; listings: number }>(
    db,
    sql`SELECT place_id AS place, readiness, channel_state AS "channelState", listings FROM place_total WHERE listings > 0`,
  );
  const versions = await rows<{ id: number; version: string }>(db, sql`SELECT id, version FROM rulebook`);
  return Promise.all(
    (await listPlaces(db)).map(async (place) => ({
      id: place.id,
      channel: place.channel,
      channelName: place.channelName,
      market: place.market,
      name: place.name,
      language: place.language,
      currency: place.currency,
      accountState: place.accountState,
      rulebookVersion: versions.find((row) => row.id === place.rulebookId)?.version ?? '',
      totals: totals.filter((row) => row.place === place.id).map(({ place: _, ...rest }) => rest),
      rechecking: await dirtyCount(db, place.id),
    })),
  );
}

export async function rulebookOf(on: Executor, place: PlaceRow): Promise<Rulebook> {
  const found = await one<{ body: Rulebook }>(on, sql`SELECT body FROM rulebook WHERE id = ${place.rulebookId}`);
  if (!found) throw notFound(`rulebook for ${place.name}`);
  return found.body;
}

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
  const maps = await rows<{ category: string; target: string }>(
    on,
    sql`SELECT category, target FROM category_map WHERE channel_id = ${place.channelId} AND market IN ('', ${place.market})`,
  );
  return {
    rulebook,
    suggest: async (category, most) => {
      const titles = await rows<{ title: string }>(
        on,
        sql`SELECT title FROM product WHERE category = ${category} AND title IS NOT NULL AND kind <> 'family' AND merged_into IS NULL ORDER BY id LIMIT 12`,
      );
      const root = category.split('/')[0];
      const neighbours = maps
        .filter((one_) => one_.category !== category && one_.category.split('/')[0] === root)
        .map((one_) => ({ names: one_.category.split('/'), chosen: one_.target, chosenNames: names(one_.target) }));
      return suggester({ names: category.split('/'), titles: titles.map((one_) => one_.title), neighbours }, most);
    },
  };
}

export async function showCategories({ db }: Services, placeId: number): Promise<CategoryRow[]> {
  const place = await getPlace(db, placeId);
  const { rulebook, suggest } = await suggestFor(db, place);
  const names = namesOf(rulebook);
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const parents = new Set(rulebook.categories.map(({ path }) => parentPath(path)));
  const own = await rows<{ category: string; variants: number; target: string | null }>(
    db,
    sql`SELECT c.path AS category, count(p.id) AS variants, (SELECT target FROM category_map m WHERE m.channel_id = ${place.channelId} AND m.market IN ('', ${place.market}) AND m.category = c.path ORDER BY m.market DESC LIMIT 1) AS target
        FROM category c LEFT JOIN product p ON p.category = c.path AND p.kind IN ('variant', 'single') AND p.merged_into IS NULL
        GROUP BY c.path, c.position ORDER BY c.position, c.path`,
  );
  const list = await Promise.all(
    own.map(async ({ category, variants, target }): Promise<CategoryRow> => ({
      category,
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
    })),
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
  on?: Executor,
): Promise<Effect> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const wrong = maps.find(({ target }) => target !== null && !known.has(target));
  if (wrong) throw badRequest(`${place.channelName} has no category “${wrong.target}”`);
  const names = namesOf(rulebook);
  const effect = await inside(db, on, async (tx) => {
    const before = await rows<{ category: string; target: string }>(
      tx,
      sql`SELECT category, target FROM category_map WHERE channel_id = ${place.channelId} AND market = ''`,
    );
    const was = new Map(before.map((one_) => [one_.category, one_.target]));
    const delta: Record<string, unknown[]> = {};
    for (const { category, target } of maps) {
      delta[`map:${category}`] = [was.get(category) ?? null, target];
      if (target === null)
        await tx.execute(
          sql`DELETE FROM category_map WHERE channel_id = ${place.channelId} AND market = '' AND category = ${category}`,
        );
      else
        await tx.execute(sql`INSERT INTO category_map (channel_id, category, target) VALUES (${place.channelId}, ${category}, ${target})
          ON CONFLICT (channel_id, market, category) DO UPDATE SET target = excluded.target`);
    }
    const [first] = maps;
    const words =
      maps.length > 1
        ? `Mapped ${maps.length} categories for ${place.channelName}`
        : first?.target
          ? `Mapped ${first.category.replaceAll('/', ' / ')} to ${names(first.target).join(' / ')}`
          : `Took the ${place.channelName} category of ${first?.category} away`;
    await recordAction(tx, { actor: user.id, kind: 'map-category', words }, [
      { kind: 'channel', id: place.channelId, delta },
    ]);
    for (const one_ of await placesOf(tx, place.channelId))
      await markPlace(tx, one_, { categories: maps.map(({ category }) => category) });
    return drain(tx, config.address, 500);
  });
  services.notify('listings');
  return effect;
}

const placesOf = async (on: Executor, channelId: number) =>
  (
    await rows<{ id: number }>(
      on,
      sql`SELECT p.id FROM place p JOIN account a ON a.id = p.account_id WHERE a.channel_id = ${channelId}`,
    )
  ).map((one_) => one_.id);

async function inside<T>(db: Services['db'], on: Executor | undefined, work: (tx: Executor) => Promise<T>): Promise<T> {
  return on ? work(on) : db.transaction(work);
}

export async function saveFill(
  services: Services,
  user: User,
  placeId: number,
  attribute: string,
  fill: Fill | null,
): Promise<Effect> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const known = rulebook.attributes.find((one_) => one_.key === attribute);
  if (!known) throw notFound(`attribute “${attribute}” on ${place.channelName}`);
  const effect = await db.transaction(async (tx) => {
    const before = await one<{ fill: Fill }>(
      tx,
      sql`SELECT fill FROM fill WHERE channel_id = ${place.channelId} AND market = '' AND category = '' AND attribute = ${attribute}`,
    );
    await writeFill(tx, place.channelId, attribute, fill);
    const words =
      fill === null
        ? `Took the fill of ${known.label} on ${place.channelName} away`
        : `Changed how ${known.label} is filled on ${place.channelName}`;
    await recordAction(tx, { actor: user.id, kind: 'fill', words }, [
      { kind: 'channel', id: place.channelId, delta: { [`fill:${attribute}`]: [before?.fill ?? null, fill] } },
    ]);
    return drain(tx, config.address, 500);
  });
  services.notify('listings');
  return effect;
}

/** Writes a fill for all markets of a channel and marks its places. */
export async function writeFill(tx: Executor, channelId: number, attribute: string, fill: Fill | null): Promise<void> {
  if (fill === null)
    await tx.execute(
      sql`DELETE FROM fill WHERE channel_id = ${channelId} AND market = '' AND category = '' AND attribute = ${attribute}`,
    );
  else
    await tx.execute(sql`INSERT INTO fill (channel_id, attribute, fill) VALUES (${channelId}, ${attribute}, ${json(fill)})
      ON CONFLICT (channel_id, market, category, attribute) DO UPDATE SET fill = excluded.fill`);
  for (const placeId of await placesOf(tx, channelId)) await markPlace(tx, placeId);
}

export async function currentFill(on: Executor, channelId: number, attribute: string): Promise<Fill | null> {
  return (
    (
      await one<{ fill: Fill }>(
        on,
        sql`SELECT fill FROM fill WHERE channel_id = ${channelId} AND market = '' AND category = '' AND attribute = ${attribute}`,
      )
    )?.fill ?? null
  );
}

/** Every attribute the channel asks for, its fill, and what it gives on a sample; `try_` replaces a fill unsaved. */
export async function showFills(
  { db, config }: Services,
  placeId: number,
  only?: string,
  try_?: SetupChange,
): Promise<ChannelAttributeAnswer[]> {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const setup = await loadSetup(db, place, dictionary, mediaAddress(config.address), try_ ?? {});
  const compiled = compilePlace(setup);
  const units = await rows<{ unit: number }>(
    db,
    sql`SELECT DISTINCT unit_id AS unit FROM listing WHERE place_id = ${placeId} AND readiness <> 'not for this channel'`,
  );
  const listingIds = new Map(
    (
      await rows<{ id: number; variant: number }>(
        db,
        sql`SELECT id, variant_id AS variant FROM listing WHERE place_id = ${placeId}`,
      )
    ).map((one_) => [one_.variant, one_.id]),
  );
  const tallies = new Map<
    string,
    { filled: number; missing: number; samples: ChannelAttributeAnswer['samples']; kinds: Set<number> }
  >();
  const attributes = setup.rulebook.attributes.filter(
    (one_) => one_.type !== 'category' && (only === undefined || one_.key === only),
  );
  for (const attribute of attributes)
    tallies.set(attribute.key, { filled: 0, missing: 0, samples: [], kinds: new Set() });
  for (let from = 0; from < units.length; from += 500)
    for (const family of await loadFamilies(
      db,
      units.slice(from, from + 500).map((one_) => one_.unit),
    ))
      for (const result of compiled.evaluate(
        { ...family, variants: family.variants.filter(compiled.inAssortment) },
        todayText(),
      )) {
        const variant = family.variants.find((one_) => one_.id === result.variant);
        const asked = new Set(compiled.attributes(result.category).map((one_) => one_.key));
        for (const attribute of attributes) {
          const tally = tallies.get(attribute.key);
          if (!tally || !asked.has(attribute.key)) continue;
          const value = result.values[attribute.key];
          if (value === undefined) tally.missing++;
          else tally.filled++;
          const fault = result.findings.find((one_) => one_.attribute === attribute.key);
          const worth = tally.samples.length < 4 || (fault && tally.samples.length < 8 && !tally.kinds.has(family.id));
          if (!worth || tally.kinds.has(family.id)) continue;
          tally.kinds.add(family.id);
          tally.samples.push({
            listingId: listingIds.get(result.variant) ?? 0,
            title: variant?.texts.title?.[place.language] ?? variant?.sku ?? '',
            value: value === undefined ? null : sayChannelValue(value, attribute, place.currency),
            fault: fault ? (checkMeta.get(fault.check)?.say(fault.params, attribute.label) ?? fault.check) : null,
          });
        }
      }
  return attributes.map((attribute) => {
    const tally = tallies.get(attribute.key);
    return {
      key: attribute.key,
      label: attribute.label,
      help: attribute.help ?? null,
      type: attribute.type,
      need: attribute.need,
      limits: sayLimits(attribute, setup.rulebook),
      values: attribute.limits.values ?? null,
      fill: setup.fills.find((one_) => one_.attribute === attribute.key && one_.category === undefined)?.fill ?? null,
      sources: sourcesFor(attribute, dictionary.attributes),
      filled: tally?.filled ?? 0,
      missing: tally?.missing ?? 0,
      samples: tally?.samples ?? [],
    };
  });
}

function sayLimits(attribute: ChannelAttribute, rulebook: Rulebook): string[] {
  const { minLength, maxLength, values, units, minWidth, minHeight } = attribute.limits;
  return [
    ...(minLength !== undefined ? [`at least ${minLength} characters`] : []),
    ...(maxLength !== undefined ? [`at most ${maxLength} characters`] : []),
    ...(values ? [`one of ${values.length} values`] : []),
    ...(units ? [`in ${units.join(' or ')}`] : []),
    ...(minWidth !== undefined ? [`at least ${minWidth} × ${minHeight ?? minWidth} pixels`] : []),
    ...valueChecks
      .filter(
        ({ meta, compile }) =>
          ['sales-talk', 'capitals', 'absolute-link', 'gtin-digits'].includes(meta.id) && compile(attribute, rulebook),
      )
      .map(({ meta }) => meta.id.replace('-', ' ')),
  ];
}

export async function showRulebooks({ db }: Services, placeId: number) {
  const place = await getPlace(db, placeId);
  const found = await rows<{ id: number; version: string; body: Rulebook }>(
    db,
    sql`SELECT id, version, body FROM rulebook WHERE channel_id = ${place.channelId} ORDER BY valid_from, version`,
  );
  const used = found.find((one_) => one_.id === place.rulebookId);
  return found.map(({ id, version, body }) => ({
    id,
    version,
    validFrom: body.validFrom,
    inUse: id === place.rulebookId,
    summary: body.summary ?? null,
    categories: body.categories.length,
    attributes: body.attributes.length,
    changes: used && id !== used.id ? compareRulebooks(used.body, body) : [],
  }));
}

export async function addRulebook(
  { db }: Services,
  user: User,
  placeId: number,
  given: unknown,
): Promise<{ version: string }> {
  const place = await getPlace(db, placeId);
  const read = loadRulebook(given);
  if (!read.ok)
    throw badRequest(
      `This is no rulebook we can use: ${read.faults.slice(0, 5).join('; ')}`,
      read.faults.map((detail) => ({ pointer: '/body/rulebook', detail })),
    );
  const { rulebook } = read;
  if (rulebook.channel !== place.channel)
    throw badRequest(`This rulebook is for “${rulebook.channel}”, the place is on “${place.channel}”`);
  await db.transaction(async (tx) => {
    const made = await rows(
      tx,
      sql`INSERT INTO rulebook (channel_id, version, valid_from, body) VALUES (${place.channelId}, ${rulebook.version}, ${rulebook.validFrom}, ${json(rulebook)}) ON CONFLICT DO NOTHING RETURNING id`,
    );
    if (made.length === 0) throw badRequest(`Version ${rulebook.version} is loaded already`);
    await recordAction(
      tx,
      { actor: user.id, kind: 'load-rulebook', words: `Loaded ${place.channelName}’s rulebook ${rulebook.version}` },
      [{ kind: 'channel', id: place.channelId, delta: { rulebook: [null, rulebook.version] } }],
    );
  });
  return { version: rulebook.version };
}

export async function tryRulebook({ db, config }: Services, placeId: number, rulebookId: number) {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const found = await one<{ body: Rulebook }>(
    db,
    sql`SELECT body FROM rulebook WHERE id = ${rulebookId} AND channel_id = ${place.channelId}`,
  );
  if (!found) throw notFound(`rulebook ${rulebookId} of ${place.channelName}`);
  const { newCauses, ...effect } = await tryChange(db, place, dictionary, config.address, { rulebook: found.body });
  const causes = [...newCauses]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 20)
    .map(([key, listings]) => ({
      words: sayCause(key, dictionary.attributes, [found.body], place.channelName),
      listings,
    }));
  return { ...effect, causes };
}

export async function takeRulebook(
  services: Services,
  user: User,
  placeId: number,
  rulebookId: number,
): Promise<Effect> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const effect = await db.transaction(async (tx) => {
    const found = await one<{ version: string }>(
      tx,
      sql`SELECT version FROM rulebook WHERE id = ${rulebookId} AND channel_id = ${place.channelId}`,
    );
    if (!found) throw notFound(`rulebook ${rulebookId} of ${place.channelName}`);
    await tx.execute(sql`UPDATE channel SET rulebook_id = ${rulebookId} WHERE id = ${place.channelId}`);
    await recordAction(
      tx,
      {
        actor: user.id,
        kind: 'take-rulebook',
        words: `${place.channelName} is now checked against rulebook ${found.version}`,
      },
      [{ kind: 'channel', id: place.channelId, delta: { rulebook: [place.rulebookId, rulebookId] } }],
    );
    for (const id of await placesOf(tx, place.channelId)) await markPlace(tx, id);
    return drain(tx, config.address, 500);
  });
  services.notify('listings');
  return effect;
}

/** Takes a change of set-up back where it still stands. */
export async function undoSetup(tx: Executor, actionId: number): Promise<string[]> {
  const changes = await rows<{ id: number; delta: Record<string, [unknown, unknown]> }>(
    tx,
    sql`SELECT subject_id AS id, delta FROM change WHERE action_id = ${actionId} AND subject_kind = 'channel'`,
  );
  const left: string[] = [];
  for (const { id, delta } of changes)
    for (const [field, [before, after]] of Object.entries(delta)) {
      const name = field.slice(field.indexOf(':') + 1);
      if (field.startsWith('fill:')) {
        const current = await currentFill(tx, id, name);
        if (JSON.stringify(current) === JSON.stringify(after)) await writeFill(tx, id, name, before as Fill | null);
        else left.push(`the fill of ${name}: changed since`);
      } else if (field.startsWith('map:')) {
        const current =
          (
            await one<{ target: string }>(
              tx,
              sql`SELECT target FROM category_map WHERE channel_id = ${id} AND market = '' AND category = ${name}`,
            )
          )?.target ?? null;
        if (current !== after) {
          left.push(`${name}: mapped again since`);
          continue;
        }
        if (before === null)
          await tx.execute(
            sql`DELETE FROM category_map WHERE channel_id = ${id} AND market = '' AND category = ${name}`,
          );
        else
          await tx.execute(
            sql`INSERT INTO category_map (channel_id, category, target) VALUES (${id}, ${name}, ${before as string}) ON CONFLICT (channel_id, market, category) DO UPDATE SET target = excluded.target`,
          );
        for (const placeId of await placesOf(tx, id)) await markPlace(tx, placeId, { categories: [name] });
      }
    }
  return left;
}
