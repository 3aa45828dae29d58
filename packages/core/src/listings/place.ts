/** The set-up of a place: all that decides how a product becomes a listing there. Plain data. */
import type { Condition } from '../conditions/index.js';
import type { Fill } from '../fills/index.js';
import type { Rulebook } from '../rulebooks/index.js';
import type { Attribute, Rate } from '../values/index.js';

/** Where goods of one of our categories stand: paths of the channel's tree. */
export interface CategoryTarget {
  target: string;
  /** A further category, where the channel takes one. */
  second?: string | undefined;
  /** Goods of which a condition holds stand elsewhere: the first that holds, in their order. */
  splits?: readonly CategorySplit[] | undefined;
}

export interface CategorySplit {
  condition: Condition;
  target: string;
  second?: string | undefined;
}

export interface PlaceSetup {
  channel: string;
  market: string;
  language: string;
  currency: string;
  rulebook: Rulebook;
  dictionary: ReadonlyMap<string, Attribute>;
  /** Which products the place gets. */
  assortment: Condition;
  /** Goods put in (true) or kept out by hand, by the number of a variant or of its family, whatever the condition says. */
  hand: ReadonlyMap<number, boolean>;
  /** Where goods of our categories stand on the channel, by our category. */
  categoryMap: ReadonlyMap<string, CategoryTarget>;
  /** Most specific wins: one for a channel category before one for all. */
  fills: readonly PlacedFill[];
  /** Those of a preset stand before all others, for the goods it is applied to; of several presets the first does. */
  presets?: readonly Preset[];
  /** Values set by hand, by variant id. */
  /** Our categories that are mapped for this market alone. */
  ownMaps?: ReadonlySet<string>;
  pins: ReadonlyMap<number, Record<string, string>>;
  /** Which goods the channel has granted that they go without an attribute it requires. */
  exempt?: readonly { attribute: string; condition: Condition }[];
  /** What one of another currency is in the place's, by that currency. */
  rates?: ReadonlyMap<string, Rate>;
  /** Start of picture addresses, without a slash at the end. */
  mediaAddress: string;
  /** The same of files that are no pictures. */
  filesAddress: string;
}

/** A named bundle of fills: for goods a condition holds of, and those a person put in (true) or kept out. */
export interface Preset {
  id: number;
  name: string;
  /** Without one it is applied by hand alone. */
  condition?: Condition | undefined;
  /** By the number of a variant or of its family. */
  hand: ReadonlyMap<number, boolean>;
}

export interface PlacedFill {
  attribute: string;
  /** The preset it belongs to; undefined = none. */
  preset?: number | undefined;
  /** Channel category it holds for, with all below it; undefined = everywhere. */
  category?: string | undefined;
  /** Market it was said for alone; undefined = for all. */
  market?: string | undefined;
  fill: Fill;
}
