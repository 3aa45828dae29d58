/** Everything that channels ask of a product: fields of all its listings, put together by what of ours feeds them. */
import type { Ask, AskedLine } from '@velvet-shelf/contract';
import { catalogLabel, sayFinding } from '@velvet-shelf/core/causes';
import { recommended, required, sayLimits } from '@velvet-shelf/core/checks';
import {
  type Asked,
  type Feeding,
  type Finding,
  type PlaceSetup,
  askedIn,
  ownKind,
  parseCause,
} from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { formatValue, groupBy, keyOf } from '@velvet-shelf/core/values';
import { eq, and, or, ne } from 'drizzle-orm';
import { explainProduct } from '../catalog/product.js';
import { type PlaceRow, getPlace } from '../channels/places.js';
import { compileFor } from '../channels/setup.js';
import { first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';

/** Listings of a variant or a single, or of all variants of a family. */
async function listingsOf({ db }: Services, id: number) {
  const goods = await first(db.select({ id: tables.product.id }).from(tables.product).where(eq(tables.product.id, id)));
  if (!goods) throw notFound(`product ${id}`);
  const { listing, product } = tables;
  return db
    .select({
      placeId: listing.placeId,
      category: listing.category,
      findings: listing.findings,
      collective: listing.collective,
      reported: listing.reported,
    })
    .from(listing)
    .innerJoin(product, eq(product.id, listing.variantId))
    .where(and(or(eq(product.id, id), eq(product.familyId, id)), ne(listing.readiness, 'not for this channel')))
    .orderBy(listing.placeId, listing.id);
}
type Row = Awaited<ReturnType<typeof listingsOf>>[number];
/** A line before it is said what the goods hold. */
type Line = Omit<AskedLine, 'held'>;

export async function askedOf(
  services: Services,
  id: number,
  locale?: string,
): Promise<{ listings: number; lines: AskedLine[] }> {
  const rows = await listingsOf(services, id);
  const dictionary = await loadDictionary(services.db, locale);
  const lines = new Map<string, Line>();
  for (const [placeId, listed] of groupBy(rows, (row) => row.placeId)) {
    const place = await getPlace(services.db, placeId);
    const { setup } = await compileFor(services.db, place, dictionary, services.config.address);
    for (const [category, group] of groupBy(listed, (row) => row.category)) {
      const fields = askedIn(setup, category ?? undefined);
      for (const asked of [...fields, ...besides(group, fields, setup)])
        addAsked(lines, asked, group, { place, rulebook: setup.rulebook, dictionary });
    }
  }
  const held = await holding(services, id, dictionary);
  return {
    listings: rows.length,
    lines: [...lines.values()].map((line) => ({ ...line, held: held(line) })).sort((a, b) => urgency(b) - urgency(a)),
  };
}

/** What the variants of a product, or it alone, hold of an attribute. */
async function holding({ db }: Services, id: number, dictionary: Dictionary) {
  const { product, resolved } = await explainProduct(db, id, dictionary);
  const variants = resolved.variants.filter((variant) => product.kind === 'family' || variant.id === id);
  return ({ attribute, language }: Line): AskedLine['held'] => {
    const known = dictionary.attributes.get(attribute ?? '');
    if (!known) return null;
    const slot = language === null ? known.key : `${known.key}@${language}`;
    const values = variants.map(({ id: variant, slots }) => ({ variant, value: slots.get(slot)?.value }));
    const shown = new Set(
      values.flatMap(({ value }) => (value === undefined ? [] : formatValue(value, known, dictionary.reader))),
    );
    return {
      of: variants.length,
      same: shown.size === 1 ? ([...shown][0] ?? null) : null,
      without: values.flatMap(({ variant, value }) => (value === undefined ? variant : [])),
    };
  };
}

const allFindings = ({ findings, collective, reported }: Row): Finding[] => [...findings, ...collective, ...reported];

/** What is wrong with something that is no field of the category: the category itself, options, what the channel answered. */
function besides(group: readonly Row[], fields: readonly Asked[], setup: PlaceSetup): Asked[] {
  const known = new Set(fields.map(({ attribute }) => attribute.key));
  const others = groupBy(
    group.flatMap(allFindings).filter(({ attribute }) => !known.has(attribute)),
    ({ attribute }) => attribute,
  );
  return [...others].map(([key, found]) => {
    const { label = key, help } = setup.rulebook.attributes.find((attribute) => attribute.key === key) ?? {};
    const need = found.some(({ severity }) => severity === 'blocker') ? 'required' : 'recommended';
    return {
      attribute: { key, label, type: 'text', need, limits: {}, ...(help === undefined ? {} : { help }) },
      fill: undefined,
      feeding: uniqueBy(found.flatMap(({ cause }) => feedingOf(cause, setup))),
    };
  });
}

/** What of ours one would change. */
function feedingOf(cause: string, { dictionary }: PlaceSetup): Feeding[] {
  const parsed = parseCause(cause);
  const category = keyOf(dictionary, 'category');
  if (parsed?.kind === 'catalog') return [parsed];
  return parsed?.kind === 'map-category' && category !== undefined ? [{ attribute: category }] : [];
}

const uniqueBy = (feeding: readonly Feeding[]): Feeding[] => [
  ...new Map(
    feeding.map(({ attribute, language }) => [`${attribute}@${language ?? ''}`, { attribute, language }]),
  ).values(),
];

interface At {
  place: PlaceRow;
  rulebook: Rulebook;
  dictionary: Dictionary;
}

function addAsked(lines: Map<string, Line>, asked: Asked, group: readonly Row[], at: At): void {
  const ask = askOf(asked, group, at);
  const { attribute, fill, feeding } = asked;
  for (const { attribute: key, language = null } of feeding)
    addTo(lines, `own ${key} ${language ?? ''}`, ask, {
      attribute: key,
      language,
      label: catalogLabel(key, at.dictionary.attributes),
      filled: null,
    });
  if (feeding.length > 0) return;
  // Fields of several channels that nothing of ours feeds have nothing in common but their name.
  const filled = fill ? { fixed: fill.rule.kind === 'fixed' ? fill.rule.value : null } : null;
  addTo(lines, `field ${at.place.channelId} ${attribute.key}`, ask, {
    attribute: null,
    language: null,
    label: attribute.label,
    filled,
  });
}

function addTo(lines: Map<string, Line>, key: string, ask: Ask, begin: Omit<Line, 'asks'>): void {
  const line = lines.get(key);
  if (!line) lines.set(key, { ...begin, asks: [ask] });
  else {
    const same = line.asks.findIndex(({ placeId, field }) => placeId === ask.placeId && field === ask.field);
    const held = line.asks[same];
    if (held) line.asks[same] = together(held, ask);
    else line.asks.push(ask);
  }
}

const needs = ['optional', 'recommended', 'required'] as const;

/** The same field of listings in two categories. */
function together(one: Ask, other: Ask): Ask {
  const [need, less] = needs.indexOf(one.need) >= needs.indexOf(other.need) ? [one, other] : [other, one];
  return {
    ...need,
    atMost: least(one.atMost, other.atMost),
    limits: [...new Set([...need.limits, ...less.limits])],
    listings: one.listings + other.listings,
    missing: one.missing + other.missing,
    findings: countFindings([...one.findings, ...other.findings]),
  };
}

const least = (a: number | null, b: number | null) => (a === null || b === null ? (a ?? b) : Math.min(a, b));

const absent: ReadonlySet<string> = new Set([required.meta.id, recommended.meta.id]);

function askOf({ attribute }: Asked, group: readonly Row[], { place, rulebook }: At): Ask {
  const { key, label, help, need, limits } = attribute;
  const ofField = group.map((row) => allFindings(row).filter((found) => found.attribute === key));
  const isAbsent = (found: Finding) => absent.has(found.check);
  // A condition of the channel's own may need it where its need alone does not.
  const isNeeded = ofField.some((found) => found.some(({ check }) => check === required.meta.id));
  return {
    placeId: place.id,
    place: place.name,
    field: key,
    label,
    help: help ?? null,
    need: isNeeded ? 'required' : need,
    own: ownKind(attribute) ?? null,
    limits: sayLimits(attribute, rulebook),
    atMost: limits.maxLength ?? null,
    listings: group.length,
    missing: ofField.filter((found) => found.some(isAbsent)).length,
    findings: countFindings(
      ofField.flatMap((found) =>
        found
          .filter((each) => !isAbsent(each))
          .map((each) => ({
            words: sayFinding(each, rulebook),
            severity: each.severity,
            cause: each.cause,
            listings: 1,
          })),
      ),
    ),
  };
}

function countFindings(findings: Ask['findings']): Ask['findings'] {
  return [...groupBy(findings, ({ severity, words, cause }) => JSON.stringify([severity, words, cause])).values()]
    .flatMap(([first, ...others]) =>
      first ? [{ ...first, listings: others.reduce((sum, { listings }) => sum + listings, first.listings) }] : [],
    )
    .sort((a, b) => Number(b.severity === 'blocker') - Number(a.severity === 'blocker') || b.listings - a.listings);
}

/** What keeps most back comes first; what is asked for and there comes last, the more needed before the less. */
function urgency({ asks }: Line): number {
  return Math.max(
    ...asks.map(({ need, missing, findings }) => {
      const rank = needs.indexOf(need);
      if (missing > 0 && rank > 0) return 1000 * rank + 500;
      if (findings.some(({ severity }) => severity === 'blocker')) return 2000;
      return findings.length > 0 ? 900 : rank;
    }),
  );
}
