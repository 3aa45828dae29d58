/** The set-up of a place: all that decides how a product becomes a listing there. Plain data. */
import type { Condition } from '../conditions/index.js';
import type { Fill } from '../fills/index.js';
import type { Rulebook } from '../rulebooks/index.js';
import type { Attribute, Rate } from '../values/index.js';

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
  /** Own category path → channel category path. */
  categoryMap: ReadonlyMap<string, string>;
  /** Most specific wins: one for a channel category before one for all. */
  fills: readonly PlacedFill[];
  /** Values set by hand, by variant id. */
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

export interface PlacedFill {
  attribute: string;
  /** Channel category it holds for, with all below it; undefined = everywhere. */
  category?: string | undefined;
  /** Market it was said for alone; undefined = for all. */
  market?: string | undefined;
  fill: Fill;
}
