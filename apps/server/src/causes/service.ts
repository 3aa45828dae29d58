/** Causes: ranked over interned sets, each with what can be done about it in place, tried before it is saved. */
import type { CauseAnswer, CauseDetail, Fix } from '@velvet-shelf/contract';
import { planFixes, rankCauses } from '@velvet-shelf/core/causes';
import type { Fill } from '@velvet-shelf/core/fills';
import { type Cause, type Finding, parseCause, sourcesFor } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { saveEdits } from '../catalog/edit.js';
import { typedText } from '../catalog/product.js';
import { currentFill, namesOf, rulebookOf, saveCategories, saveFill, suggestFor } from '../channels/service.js';
import { type PlaceRow, type SetupChange, listPlaces } from '../channels/setup.js';
import { tryChange } from '../channels/what-if.js';
import { type Database, rows } from '../db/client.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import type { Effect } from '../listings/evaluate.js';
import { causeFilter } from '../listings/service.js';
import type { Value } from '@velvet-shelf/core/values';
import { catalogLabel, sayCause, sayFinding } from './words.js';

interface Scene {
  dictionary: Dictionary;
  places: PlaceRow[];
  rulebooks: Map<number, Rulebook>;
}

async function scene(db: Database): Promise<Scene> {
  const places = await listPlaces(db);
  const rulebooks = new Map<number, Rulebook>();
  for (const place of places) rulebooks.set(place.id, await rulebookOf(db, place));
  return { dictionary: await loadDictionary(db), places, rulebooks };
}

const wordsOf = ({ dictionary, places, rulebooks }: Scene, key: string) => {
  const cause = parseCause(key);
  const channel = cause && 'channel' in cause ? cause.channel : undefined;
  return sayCause(
    key,
    dictionary.attributes,
    [...rulebooks.values()],
    places.find((one) => one.channel === channel)?.channelName ?? channel ?? '',
  );
};

export async function rankedCauses({ db }: Services, place: number | undefined) {
  const all = await scene(db);
  const at = place === undefined ? sql`true` : sql`l.place_id = ${place}`;
  const sets = await rows<{ causes: number[]; listings: number; places: number[] }>(
    db,
    sql`SELECT s.causes, count(*) AS listings, array_agg(DISTINCT l.place_id) AS places FROM listing l JOIN cause_set s ON s.id = l.cause_set_id
        WHERE ${at} AND l.readiness = 'blocked' GROUP BY s.id`,
  );
  const keys = new Map(
    (await rows<{ id: number; key: string }>(db, sql`SELECT id, key FROM cause`)).map((one) => [one.id, one.key]),
  );
  const numeric = sets.map(({ causes, listings }) => ({ causes: causes.map(Number), listings }));
  const placesOf = new Map<number, Set<number>>();
  for (const { causes, places } of sets)
    for (const cause of causes)
      for (const id of places) placesOf.set(Number(cause), (placesOf.get(Number(cause)) ?? new Set()).add(Number(id)));
  const name = (id: number) => all.places.find((one) => one.id === id)?.name ?? '';
  const items = rankCauses(numeric).map(({ cause, touched, alone }): CauseAnswer => {
    const key = keys.get(cause) ?? '';
    return {
      key,
      kind: parseCause(key)?.kind ?? 'catalog',
      words: wordsOf(all, key),
      places: [...(placesOf.get(cause) ?? [])].map(name),
      touched,
      unlocks: alone,
    };
  });
  return {
    blocked: numeric.reduce((sum, one) => sum + one.listings, 0),
    items,
    plan: planFixes(numeric, 5).map(({ cause, freed }) => ({ key: keys.get(cause) ?? '', freed })),
    advice: await adviceCauses(db, all, at),
  };
}

/** Advice and the channel's own answers, counted over the listings. */
async function adviceCauses(db: Database, all: Scene, at: ReturnType<typeof sql>): Promise<CauseAnswer[]> {
  const found = await rows<{ key: string; touched: number; places: number[] }>(
    db,
    sql`SELECT f ->> 'cause' AS key, count(DISTINCT l.id) AS touched, array_agg(DISTINCT l.place_id) AS places
        FROM listing l, jsonb_array_elements(l.findings || l.collective || l.reported) f WHERE ${at} AND f ->> 'severity' = 'advice' GROUP BY 1 ORDER BY 2 DESC, 1`,
  );
  return found.map(({ key, touched, places }) => ({
    key,
    kind: parseCause(key)?.kind ?? 'catalog',
    words: wordsOf(all, key),
    touched,
    unlocks: 0,
    places: places.map((id) => all.places.find((one) => one.id === Number(id))?.name ?? ''),
  }));
}

interface Touched {
  id: number;
  place_id: number;
  product: number;
  unit: number;
  sku: string | null;
  title: string | null;
  findings: Finding[];
  facts: Record<string, Value>;
  texts: Record<string, Record<string, string>> | null;
  offers: Record<string, { regular?: string; sale?: { amount: string } }>;
  stock: number;
  others: number;
}

async function touchedBy(db: Database, key: string, limit: number): Promise<Touched[]> {
  return rows<Touched>(
    db,
    sql`SELECT l.id, l.place_id, p.id AS product, p.unit_id AS unit, p.sku, p.title, l.findings || l.collective || l.reported AS findings, p.facts, t.texts, p.offers, p.stock,
          greatest(0, coalesce(cardinality(s.causes), 0) - 1) AS others
        FROM listing l JOIN product p ON p.id = l.variant_id LEFT JOIN product_text t ON t.product_id = p.id LEFT JOIN cause_set s ON s.id = l.cause_set_id
        WHERE ${causeFilter(key)} ORDER BY others, p.title, l.id LIMIT ${limit}`,
  );
}

function mustParse(key: string): Cause {
  const cause = parseCause(key);
  if (!cause) throw notFound(`cause “${key}”`);
  return cause;
}

export async function showCause(services: Services, key: string): Promise<CauseDetail> {
  const { db } = services;
  const all = await scene(db);
  const cause = mustParse(key);
  const touched = await touchedBy(db, key, 100_000);
  const name = (id: number) => all.places.find((one) => one.id === id)?.name ?? '';
  const first = touched[0]?.findings.find((one) => one.cause === key);
  return {
    key,
    kind: cause.kind,
    words: wordsOf(all, key),
    places: [...new Set(touched.map((one) => name(one.place_id)))],
    touched: touched.length,
    unlocks: first?.severity === 'blocker' ? touched.filter((one) => one.others === 0).length : 0,
    severity: first?.severity ?? 'blocker',
    remedy: await remedyFor(services, all, cause, touched),
    listings: touched.slice(0, 100).map((one) => {
      const finding = one.findings.find((each) => each.cause === key);
      const rulebook = all.rulebooks.get(one.place_id);
      return {
        id: one.id,
        productId: one.product,
        sku: one.sku,
        title: one.title,
        place: name(one.place_id),
        others: one.others,
        finding: finding && rulebook ? sayFinding(finding, rulebook) : '',
        text: presentText(cause, one, all),
      };
    }),
  };
}

/** The catalog value a cell would change, as one would type it. */
function presentText(cause: Cause, one: Touched, { dictionary, rulebooks }: Scene): string | null {
  const slot = cellSlot(cause, rulebooks);
  if (!slot) return null;
  const { attribute: key, language } = slot;
  if (key === 'price') return one.offers.GBP?.regular ?? null;
  if (key === 'salePrice') return one.offers.GBP?.sale?.amount ?? null;
  if (key === 'stock') return String(one.stock);
  const attribute = dictionary.attributes.get(key);
  if (!attribute) return null;
  const value = attribute.perLanguage
    ? one.texts?.[key]?.[language ?? dictionary.home]
    : (one.facts[key] ?? (attribute.type === 'richText' ? one.texts?.[key]?.[dictionary.home] : undefined));
  return value === undefined ? null : typedText(value, attribute);
}

function cellSlot(
  cause: Cause,
  _rulebooks: Map<number, Rulebook>,
): { attribute: string; language: string | undefined } | undefined {
  if (cause.kind === 'catalog') return { attribute: cause.attribute, language: cause.language };
  if (cause.kind === 'fit') return { attribute: cause.attribute, language: undefined };
  return undefined;
}

const placeOf = ({ places }: Scene, cause: { channel: string; market: string }): PlaceRow => {
  const found = places.find((one) => one.channel === cause.channel && one.market === cause.market);
  if (!found) throw notFound(`place ${cause.channel} ${cause.market}`);
  return found;
};

async function remedyFor(
  { db }: Services,
  all: Scene,
  cause: Cause,
  touched: Touched[],
): Promise<CauseDetail['remedy']> {
  const { dictionary, rulebooks } = all;
  switch (cause.kind) {
    case 'map-category': {
      const place = placeOf(all, cause);
      const { rulebook, suggest } = await suggestFor(db, place);
      const names = namesOf(rulebook);
      const suggested = await suggest(cause.category, 3);
      return {
        kind: 'choose',
        placeId: place.id,
        question: `Where do ${cause.category.replaceAll('/', ' / ')} belong on ${place.channelName}?`,
        options: rulebook.categories.map(({ path }) => ({
          value: path,
          label: names(path).join(' / '),
          score: null,
          evidence: [],
        })),
        suggested: suggested.map(({ path, names: list, score, evidence }) => ({
          value: path,
          label: list.join(' / '),
          score,
          evidence,
        })),
      };
    }
    case 'translate': {
      const place = placeOf(all, cause);
      const attribute = rulebooks.get(place.id)?.attributes.find((one) => one.key === cause.attribute);
      const values = attribute?.limits.values ?? [];
      return {
        kind: 'choose',
        placeId: place.id,
        question: `Which ${attribute?.label.toLowerCase() ?? 'value'} is “${cause.value}” on ${place.channelName}?`,
        options: values.map((value) => ({ value, label: value, score: null, evidence: [] })),
        suggested: suggestValues(cause.value, values),
      };
    }
    case 'fill': {
      const place = placeOf(all, cause);
      const attribute = rulebooks.get(place.id)?.attributes.find((one) => one.key === cause.attribute);
      if (!attribute) return { kind: 'none', words: 'The rulebook no longer asks for this attribute.' };
      return {
        kind: 'fill',
        placeId: place.id,
        attribute: attribute.key,
        label: attribute.label,
        sources: sourcesFor(attribute, dictionary.attributes),
        values: attribute.limits.values ?? null,
      };
    }
    case 'fit': {
      const place = placeOf(all, cause);
      const attribute = rulebooks.get(place.id)?.attributes.find((one) => one.key === cause.attribute);
      const own = dictionary.attributes.get(cause.attribute);
      const words =
        cause.check === 'max-length'
          ? `Trim at a word to ${attribute?.limits.maxLength} characters, on ${place.channelName} only`
          : `Write words in capitals small, on ${place.channelName} only`;
      return {
        kind: 'cells',
        attribute: cause.attribute,
        language: own?.perLanguage ? place.language : null,
        label: own?.label ?? cause.attribute,
        type: own?.type ?? 'text',
        choices: null,
        fit: { placeId: place.id, attribute: cause.attribute, words },
      };
    }
    case 'catalog': {
      const own = dictionary.attributes.get(cause.attribute);
      if (['family', 'options'].includes(cause.attribute))
        return {
          kind: 'none',
          words: 'Options are set where variants are made: correct them in the own sheet and bring it in again.',
        };
      return {
        kind: 'cells',
        attribute: cause.attribute,
        language: cause.language ?? null,
        label: catalogLabel(cause.attribute, dictionary.attributes),
        type: own?.type ?? 'text',
        choices: own?.choices ?? null,
        fit: null,
      };
    }
    case 'report':
      return {
        kind: 'none',
        words: touched[0]
          ? 'The channel refused these. Open a listing to see its words; once corrected, build and offer the feed again.'
          : 'Nothing carries this any more.',
      };
  }
}

/** Values of a closed list that share letters or words with ours. */
function suggestValues(from: string, values: readonly string[]) {
  const letters = (text: string) =>
    new Set(
      text
        .toLowerCase()
        .split(/[^\p{L}]+/u)
        .flatMap((word) => Array.from({ length: Math.max(0, word.length - 1) }, (_, i) => word.slice(i, i + 2))),
    );
  const mine = letters(from);
  return values
    .map((value) => {
      const theirs = letters(value);
      const shared = [...mine].filter((pair) => theirs.has(pair)).length;
      return {
        value,
        label: value,
        score: Math.round((200 * shared) / Math.max(1, mine.size + theirs.size)),
        evidence: [`${shared} pairs of letters shared`],
      };
    })
    .filter((one) => one.score >= 30)
    .sort((a, b) => b.score - a.score)
    .slice(0, 3);
}

/** The change of set-up a fix amounts to; undefined for cells. */
async function setupChange(
  db: Database,
  all: Scene,
  cause: Cause,
  fix: Fix,
): Promise<{ place: PlaceRow; change: SetupChange } | undefined> {
  if (cause.kind === 'catalog' || cause.kind === 'report') return undefined;
  const place = placeOf(all, cause);
  if (cause.kind === 'map-category') {
    if (fix.kind !== 'choose') throw badRequest('Choose a category');
    return { place, change: { categories: new Map([[cause.category, fix.value]]) } };
  }
  const before = await currentFill(db, place.channelId, cause.attribute);
  const fill = fixedFill(cause, fix, before, all.rulebooks.get(place.id));
  return fill && { place, change: { fills: new Map([[cause.attribute, fill]]) } };
}

function fixedFill(
  cause: Exclude<Cause, { kind: 'map-category' | 'catalog' | 'report' }>,
  fix: Fix,
  before: Fill | null,
  rulebook: Rulebook | undefined,
): Fill | undefined {
  if (fix.kind === 'cells') return undefined;
  if (cause.kind === 'fill') {
    if (fix.kind !== 'fill') throw badRequest('Choose where the value comes from');
    if (fix.source) return { rule: { kind: 'copy', from: fix.source }, fit: [] };
    if (fix.fixed) return { rule: { kind: 'fixed', value: fix.fixed }, fit: [] };
    throw badRequest('Choose a source or give a fixed value');
  }
  if (!before) throw badRequest('This attribute has no fill any more');
  if (cause.kind === 'translate') {
    if (fix.kind !== 'choose') throw badRequest('Choose a value');
    return { ...before, rule: withTranslation(before.rule, cause.value, fix.value) };
  }
  const limit = rulebook?.attributes.find((one) => one.key === cause.attribute)?.limits.maxLength ?? 100;
  return {
    ...before,
    fit: [
      ...before.fit,
      cause.check === 'max-length' ? { do: 'trim-at-word', length: limit } : { do: 'sentence-case' },
    ],
  };
}

/** Adds one pair to the translation inside a rule; a copy becomes a translation that keeps what it does not know. */
function withTranslation(rule: Fill['rule'], from: string, to: string): Fill['rule'] {
  switch (rule.kind) {
    case 'translate':
      return { ...rule, table: { ...rule.table, [from]: to } };
    case 'copy':
      return { kind: 'translate', from: rule.from, table: { [from]: to }, otherwise: 'keep' };
    case 'first':
      return {
        kind: 'first',
        of: rule.of.map((one) =>
          one.kind === 'translate' || one.kind === 'copy' ? withTranslation(one, from, to) : one,
        ),
      };
    default:
      throw badRequest('The value comes from a fixed or composed fill: change the fill itself');
  }
}

export async function tryFix({ db, config }: Services, key: string, fix: Fix): Promise<Effect> {
  const all = await scene(db);
  const planned = await setupChange(db, all, mustParse(key), fix);
  if (!planned) throw badRequest('Cells are checked when they are saved');
  const units = [...new Set((await touchedBy(db, key, 100_000)).map((one) => one.unit))];
  const { listingsChanged, becameReady, becameBlocked } = await tryChange(
    db,
    planned.place,
    all.dictionary,
    config.address,
    planned.change,
    units,
  );
  return { listingsChanged, becameReady, becameBlocked };
}

export async function saveFix(services: Services, user: User, key: string, fix: Fix): Promise<Effect> {
  const { db, config } = services;
  const all = await scene(db);
  const cause = mustParse(key);
  if (fix.kind === 'cells') {
    const slot = cellSlot(cause, all.rulebooks);
    if (!slot) throw badRequest('This cause is not mended by editing products');
    const language = slot.language ?? null;
    const words = `Set ${catalogLabel(slot.attribute, all.dictionary.attributes)} of ${fix.cells.length} ${fix.cells.length === 1 ? 'product' : 'products'}`;
    const effect = await saveEdits(
      db,
      config.address,
      user,
      fix.cells.map(({ productId, text, madeAgainst }) => ({
        productId,
        edits: [{ attribute: slot.attribute, language, text, madeAgainst }],
      })),
      words,
    );
    services.notify('catalog');
    return effect;
  }
  const planned = await setupChange(db, all, cause, fix);
  if (!planned) throw badRequest('This fix does not belong to this cause');
  const [category] = planned.change.categories ?? [];
  if (category)
    return saveCategories(services, user, planned.place.id, [{ category: category[0], target: category[1] }]);
  const [fill] = planned.change.fills ?? [];
  if (!fill) throw badRequest('Nothing to save');
  return saveFill(services, user, planned.place.id, fill[0], fill[1]);
}
