/** What the fills of a place come to on all of its listings: how many get a value, samples of kinds that differ, and what becomes of listings. */
import type { ChannelAttributeAnswer, Effect } from '@velvet-shelf/contract';
import { checkMeta } from '@velvet-shelf/core/checks';
import { type PlaceSetup, type PlacedFill, compilePlace, fillsFor, suggestFills } from '@velvet-shelf/core/listings';
import { sayChannelValue } from '@velvet-shelf/core/rulebooks';
import { type Attribute, formatValue } from '@velvet-shelf/core/values';
import { eq, ne, and } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import type { Services } from '../http/route.js';
import { todayText } from '../db/clock.js';
import { loadFamilies } from './families.js';
import { type SetupChange, loadSetup } from '../channels/setup.js';
import { getPlace } from '../channels/places.js';
import { noEffect } from '../history/effect.js';
import { loadStanding, weigh } from './what-if.js';
import * as tables from '../db/schema/index.js';

/** Samples shown of a fill: of kinds that differ, and until where they may be alike. */
const mostSamples = 12;
const mostAlike = 4;

export interface FillCounts {
  /** By attribute of the channel. */
  tallies: Record<string, Pick<ChannelAttributeAnswer, 'filled' | 'missing' | 'samples' | 'covers' | 'slots'>>;
  /** Of a change that is tried. */
  effect: Effect | null;
}

/** Evaluates every listing of the place; with `change`, as if that were saved. */
export async function countFills(
  { db, config }: Services,
  placeId: number,
  only?: string,
  change?: SetupChange,
): Promise<FillCounts> {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const setup = await loadSetup(db, place, dictionary, config.address, change ?? {});
  const compiled = compilePlace(setup);
  const units = await db
    .selectDistinct({ unit: tables.listing.unitId })
    .from(tables.listing)
    .where(and(eq(tables.listing.placeId, placeId), ne(tables.listing.readiness, 'not for this channel')));
  const listingIds = new Map(
    (
      await db
        .select({ id: tables.listing.id, variant: tables.listing.variantId })
        .from(tables.listing)
        .where(eq(tables.listing.placeId, placeId))
    ).map((listing) => [listing.variant, listing.id]),
  );
  const tallies = new Map<
    string,
    {
      filled: number;
      missing: number;
      samples: ChannelAttributeAnswer['samples'];
      kinds: Set<string>;
      families: Set<number>;
      /** By what goods hold themselves of what a fixed value is sent for, as people read it: how many. */
      own: Map<string, number>;
    }
  >();
  const covered = coveredBy(setup, dictionary);
  const slots = slotsOf(setup);
  const effect = change && noEffect();
  const standing = change ? await loadStanding(db, placeId) : undefined;
  const attributes = setup.rulebook.attributes.filter(
    (attribute) => attribute.type !== 'category' && (only === undefined || attribute.key === only),
  );
  for (const attribute of attributes)
    tallies.set(attribute.key, {
      filled: 0,
      missing: 0,
      samples: [],
      kinds: new Set(),
      families: new Set(),
      own: new Map(),
    });
  for (let from = 0; from < units.length; from += 500)
    for (const family of await loadFamilies(
      db,
      placeId,
      units.slice(from, from + 500).map((unit) => unit.unit),
    ))
      for (const result of compiled.evaluate(family, todayText())) {
        if (result.standing === 'left') continue;
        if (effect) weigh(effect, standing?.get(result.variant), result);
        if (result.standing !== 'in') continue;
        const variant = family.variants.find((variant) => variant.id === result.variant);
        const asked = new Set(compiled.attributes(result.category).map((attribute) => attribute.key));
        for (const attribute of attributes) {
          const tally = tallies.get(attribute.key);
          if (!tally || !asked.has(attribute.key)) continue;
          const value = result.values[attribute.key];
          slots.count(attribute.key, result.category);
          if (value === undefined) tally.missing++;
          else tally.filled++;
          const source = covered.get(attribute.key);
          const held = source && variant?.facts[source.key];
          if (source && held !== undefined && value !== undefined) {
            const text = formatValue(held, source, dictionary.reader);
            tally.own.set(text, (tally.own.get(text) ?? 0) + 1);
          }
          const fault = result.findings.find((finding) => finding.attribute === attribute.key);
          // One of each kind: of what becomes of the value, and of which goods; then more of them, from other families.
          const kind = `${fault?.check ?? (value === undefined ? 'empty' : 'filled')} ${variant?.category ?? ''}`;
          const isOther = !tally.kinds.has(kind);
          if (tally.samples.length >= (isOther ? mostSamples : mostAlike)) continue;
          if (!isOther && tally.families.has(family.id)) continue;
          tally.kinds.add(kind);
          tally.families.add(family.id);
          tally.samples.push({
            listingId: listingIds.get(result.variant) ?? 0,
            title: variant?.texts.title?.[place.language] ?? variant?.sku ?? '',
            value: value === undefined ? null : sayChannelValue(value),
            fault: fault ? (checkMeta.get(fault.check)?.say(fault.params, attribute.label) ?? fault.check) : null,
          });
        }
      }
  return {
    tallies: Object.fromEntries(
      [...tallies].map(([key, { filled, missing, samples, own }]) => [
        key,
        { filled, missing, samples, covers: sayCovered(covered.get(key), own), slots: slots.of(key) },
      ]),
    ),
    effect: effect ?? null,
  };
}

type Slot = ChannelAttributeAnswer['slots'][number];

/** Counts by which of several fills goods get a value: the most specific one wins, and the others are hidden by it. */
function slotsOf(setup: PlaceSetup) {
  const name = new Map(setup.rulebook.categories.map((category) => [category.path, category.name]));
  const slots = new Map<PlacedFill, Slot>(
    setup.fills.map((placed) => {
      const { market = '', category = '', fill } = placed;
      const parts = category === '' ? [] : category.split('/');
      const names = parts.map((_, i) => name.get(parts.slice(0, i + 1).join('/')) ?? '');
      return [placed, { market, category, names, fill, goods: 0, hidden: 0 }];
    }),
  );
  const found = new Map<string, PlacedFill[]>();
  return {
    count(attribute: string, category: string | undefined): void {
      const key = JSON.stringify([attribute, category]);
      const fitting = found.get(key) ?? fillsFor(setup, attribute, category);
      found.set(key, fitting);
      fitting.forEach((placed, place) => {
        const slot = slots.get(placed);
        if (slot) slot[place === 0 ? 'goods' : 'hidden']++;
      });
    },
    of: (attribute: string): Slot[] =>
      [...slots]
        .flatMap(([placed, slot]) => (placed.attribute === attribute ? slot : []))
        .sort((a, b) => a.category.length - b.category.length || (a.category < b.category ? -1 : 1)),
  };
}

const mostCovered = 5;

/** By attribute of the channel that is sent one fixed value: what of ours it would be copied from by its name, type or role. */
function coveredBy({ fills, rulebook }: PlaceSetup, { attributes }: Dictionary): Map<string, Attribute> {
  const suggested = suggestFills(rulebook, attributes);
  return new Map(
    fills.flatMap(({ attribute, fill }) => {
      const rule = suggested.get(attribute)?.fill.rule;
      const own = fill.rule.kind === 'fixed' && rule?.kind === 'copy' ? attributes.get(rule.from) : undefined;
      return own && !own.perLanguage ? [[attribute, own] as const] : [];
    }),
  );
}

/** Undefined values are no difference; one alone is none either. */
function sayCovered(own: Attribute | undefined, values: ReadonlyMap<string, number>): ChannelAttributeAnswer['covers'] {
  if (!own || values.size < 2) return null;
  const ranked = [...values].sort((a, b) => b[1] - a[1]);
  return {
    from: own.key,
    label: own.label,
    distinct: ranked.length,
    examples: ranked.slice(0, mostCovered).map(([text, goods]) => ({ text, goods })),
  };
}
