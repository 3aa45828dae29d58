/** What a channel asks for in one of its categories, and which of our own attributes answer it. */
import { type Fill, fillSources } from '../fills/index.js';
import { type ChannelAttribute, attributesFor, isUnder } from '../rulebooks/index.js';
import type { PlaceSetup, PlacedFill } from './place.js';
import { type AttributeType, type Dimension, unitCode, units } from '../values/index.js';
import { compileSource } from './sources.js';

/** One of our own that a fill reads; `language` where it has languages. */
export interface Feeding {
  /** Key of an attribute of the dictionary, or of an offer: price, salePrice, stock, family, options. */
  attribute: string;
  language?: string | undefined;
}

export interface Asked {
  attribute: ChannelAttribute;
  /** The fill that holds in the category; undefined where nothing fills it. */
  fill: Fill | undefined;
  /** What it reads, each once, in its order; none where it is fixed or comes from the category map. */
  feeding: Feeding[];
}

/**
 * Fills of a channel attribute that are for a category, the most specific first: the deepest category wins, then the market’s
 * own. Those of a preset where one is named, else those of none.
 */
export const fillsFor = (
  { fills }: Pick<PlaceSetup, 'fills'>,
  attribute: string,
  category: string | undefined,
  preset?: number,
): PlacedFill[] =>
  fills
    .filter((fill) => fill.attribute === attribute && fill.preset === preset)
    .filter((fill) => fill.category === undefined || (category !== undefined && isUnder(category, [fill.category])))
    .sort(
      (a, b) =>
        (b.category?.length ?? 0) - (a.category?.length ?? 0) ||
        Number(b.market !== undefined) - Number(a.market !== undefined),
    );

/** The one of them that wins. */
export const fillFor = (setup: PlaceSetup, attribute: string, category: string | undefined): Fill | undefined =>
  fillsFor(setup, attribute, category)[0]?.fill;

/** All that is asked for in a channel category but the category itself, in the rulebook's order. */
export function askedIn(setup: PlaceSetup, category: string | undefined): Asked[] {
  return attributesFor(setup.rulebook, category, setup.market)
    .filter(({ type }) => type !== 'category')
    .map((attribute) => {
      const fill = fillFor(setup, attribute.key, category);
      return { attribute, fill, feeding: fill ? feedingOf(fill, setup) : [] };
    });
}

function feedingOf({ rule }: Fill, setup: PlaceSetup): Feeding[] {
  const read = new Map<string, Feeding>();
  for (const name of fillSources(rule)) {
    const link = compileSource(name, setup)?.link;
    if (link?.at !== 'catalog') continue;
    const { attribute, language } = link;
    read.set(`${attribute}@${language ?? ''}`, { attribute, ...(language === undefined ? {} : { language }) });
  }
  return [...read.values()];
}

export interface OwnKind {
  type: AttributeType;
  dimension: Dimension | null;
  many: boolean;
  /** Of its closed list. */
  values: string[];
}

/** What an attribute of ours would be that holds what the channel's takes; undefined where none can (pictures, prices). */
export function ownKind({ type, many = false, limits }: ChannelAttribute): OwnKind | undefined {
  const values = limits.values ?? [];
  const unit = (limits.units ?? []).flatMap((written) => unitCode(written) ?? [])[0];
  const dimension = unit === undefined ? undefined : units[unit]?.dimension;
  switch (type) {
    case 'picture':
    case 'money':
    case 'category':
      return undefined;
    case 'measure':
      return dimension === undefined
        ? { type: 'text', dimension: null, many, values: [] }
        : { type: 'measure', dimension, many, values: [] };
    case 'choice':
      return { type: values.length > 0 ? 'choice' : 'text', dimension: null, many, values };
    case 'text':
      return values.length > 0
        ? { type: 'choice', dimension: null, many, values }
        : { type: 'text', dimension: null, many, values: [] };
    case 'gtin':
      return { type: 'text', dimension: null, many, values: [] };
    case 'number':
    case 'boolean':
    case 'date':
    case 'link':
      return { type, dimension: null, many, values: [] };
  }
}
