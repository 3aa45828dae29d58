/** What the fills of a place come to on all of its listings: how many get a value, samples of kinds that differ, and what becomes of listings. */
import { namesOf } from '@velvet-shelf/core/rulebooks';
import type { ChannelAttributeAnswer, Effect } from '@velvet-shelf/contract';
import { type PlaceSetup, type PlacedFill, suggestFills } from '@velvet-shelf/core/listings';
import { type Attribute, formatValue } from '@velvet-shelf/core/values';
import type { Dictionary } from '../dictionary/dictionary.js';
import type { Services } from '../http/route.js';
import { goodsOf } from '../channels/slots.js';
import { addEffects, noEffect } from '../history/effect.js';
import { type FillWalk, type WalkInput, partKey, partOf, refusalOf, sampleOf, walkFills } from './fill-walk.js';
import { effectElsewhere } from './what-if.js';

/** Samples shown of a fill: of kinds that differ, and until where they may be alike. */
const mostSamples = 12;
const mostAlike = 4;

export interface FillCounts {
  /** By attribute of the channel. */
  tallies: Record<
    string,
    Pick<ChannelAttributeAnswer, 'filled' | 'missing' | 'refused' | 'parts' | 'samples' | 'covers' | 'slots'>
  >;
  /** Goods by category of the channel. */
  categories: Record<string, number>;
  /** Of a change that is tried. */
  effect: Effect | null;
  /** Listings that were looked at. */
  looked: number;
}

interface Tally {
  filled: number;
  missing: number;
  refused: number;
  parts: Map<string, ChannelAttributeAnswer['parts'][number]>;
  samples: ChannelAttributeAnswer['samples'];
  kinds: Set<string>;
  families: Set<number>;
  /** By what goods hold themselves of what a fixed value is sent for, as people read it: how many. */
  own: Map<string, number>;
}

const newTally = (): Tally => ({
  filled: 0,
  missing: 0,
  refused: 0,
  parts: new Map(),
  samples: [],
  kinds: new Set(),
  families: new Set(),
  own: new Map(),
});

export interface CountInput extends WalkInput {
  /** One attribute alone. */
  only?: string;
}

/** Evaluates every listing of the place; with `change`, as if that were saved. What becomes of listings is told of all, whatever is counted. */
export async function countFills(services: Services, { only, ...input }: CountInput): Promise<FillCounts> {
  const walk = await walkFills(services, input);
  const { compiled, dictionary } = walk;
  const { setup } = compiled;
  const covered = coveredBy(setup, dictionary);
  const slots = slotsOf(setup);
  let looked = 0;
  const categories: Record<string, number> = {};
  const attributes = setup.rulebook.attributes.filter(
    ({ key, type }) => type !== 'category' && (only === undefined || key === only),
  );
  const tallies = new Map(attributes.map(({ key }) => [key, newTally()]));
  for await (const walked of walk.listings()) {
    const { family, variant, result, isWithin } = walked;
    looked++;
    if (result.standing !== 'in') continue;
    if (result.category !== undefined) categories[result.category] = (categories[result.category] ?? 0) + 1;
    if (!isWithin) continue;
    const asked = new Set(compiled.attributes(result.category).map((attribute) => attribute.key));
    for (const attribute of attributes) {
      const tally = tallies.get(attribute.key);
      if (!tally || !asked.has(attribute.key)) continue;
      const value = result.values[attribute.key];
      slots.count(walked.fitting(attribute.key));
      const isRefused = refusalOf(result, attribute.key) !== undefined;
      if (value === undefined) tally.missing++;
      else {
        tally.filled++;
        if (isRefused) tally.refused++;
        const part = partOf(walked.giving(attribute.key));
        const key = partKey(part);
        const counted = tally.parts.get(key) ?? { ...part, goods: 0, refused: 0 };
        counted.goods++;
        if (isRefused) counted.refused++;
        tally.parts.set(key, counted);
      }
      const source = covered.get(attribute.key);
      const held = source && variant.facts[source.key];
      if (source && held !== undefined && value !== undefined) {
        const text = formatValue(held, source, dictionary.reader);
        tally.own.set(text, (tally.own.get(text) ?? 0) + 1);
      }
      const fault = result.findings.find((finding) => finding.attribute === attribute.key);
      // One of each kind: of what becomes of the value, and of which goods; then more of them, from other families.
      const kind = `${fault?.check ?? (value === undefined ? 'empty' : 'filled')} ${variant.category ?? ''}`;
      const isOther = !tally.kinds.has(kind);
      if (tally.samples.length >= (isOther ? mostSamples : mostAlike)) continue;
      if (!isOther && tally.families.has(family.id)) continue;
      tally.kinds.add(kind);
      tally.families.add(family.id);
      tally.samples.push(sampleOf(walk, walked, attribute));
    }
  }
  return {
    tallies: Object.fromEntries(
      [...tallies].map(([key, { filled, missing, refused, parts, samples, own }]) => [
        key,
        {
          ...{ filled, missing, refused, samples },
          parts: [...parts.values()].sort(inOrder),
          covers: sayCovered(covered.get(key), own),
          slots: slots.of(key),
        },
      ]),
    ),
    categories,
    effect: input.change ? addEffects(walk.effect, await elsewhere(services, walk, input)) : null,
    looked,
  };
}

/** First figures are of the place alone. */
const elsewhere = async ({ db, config }: Services, { place, dictionary }: FillWalk, { change, few }: WalkInput) =>
  change && !few ? effectElsewhere(db, place, dictionary, config.address, change) : noEffect();

type Part = ChannelAttributeAnswer['parts'][number];

/** Rules of one fill in their order, fills of presets first, then those for fewer goods; by hand last. */
function inOrder(a: Part, b: Part): number {
  const specific = ({ at }: Part) => (at === null ? -1 : 2 * at.category.length + (at.market === '' ? 0 : 1));
  const bundled = ({ at }: Part) => Number(at !== null && at.preset !== null);
  const places = a.path.map((place, i) => place - (b.path[i] ?? -1));
  return (
    bundled(b) - bundled(a) ||
    specific(b) - specific(a) ||
    (places.find((difference) => difference !== 0) ?? a.path.length - b.path.length)
  );
}

type Slot = ChannelAttributeAnswer['slots'][number];

/** Counts by which of several fills goods get a value: the most specific one wins, and the others are hidden by it. */
function slotsOf(setup: PlaceSetup) {
  const name = namesOf(setup.rulebook);
  const presets = new Map<number | null, string>(setup.presets?.map((preset) => [preset.id, preset.name]));
  const slots = new Map<PlacedFill, Slot>(
    setup.fills.map((placed) => {
      const at = goodsOf(placed);
      const names = at.category === '' ? [] : name(at.category);
      const presetName = presets.get(at.preset) ?? null;
      return [placed, { ...at, names, presetName, fill: placed.fill, goods: 0, hidden: 0 }];
    }),
  );
  return {
    count(fitting: readonly PlacedFill[]): void {
      fitting.forEach((placed, place) => {
        const slot = slots.get(placed);
        if (slot) slot[place === 0 ? 'goods' : 'hidden']++;
      });
    },
    of: (attribute: string): Slot[] =>
      [...slots]
        .flatMap(([placed, slot]) => (placed.attribute === attribute ? slot : []))
        .sort(
          (a, b) =>
            (a.preset ?? 0) - (b.preset ?? 0) ||
            a.category.length - b.category.length ||
            (a.category < b.category ? -1 : 1),
        ),
  };
}

const mostCovered = 5;

/** By attribute of the channel that is sent one fixed value: what of ours it would be copied from by its name, type or role. */
function coveredBy({ fills, rulebook }: PlaceSetup, { attributes }: Dictionary): Map<string, Attribute> {
  const suggested = suggestFills(rulebook, attributes);
  return new Map(
    fills.flatMap(({ attribute, preset, fill }) => {
      // What a preset fixes, somebody chose to fix for its goods.
      if (preset !== undefined) return [];
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
