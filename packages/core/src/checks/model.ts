/** What a check is. One file a check; index.ts lists them; the docs page of checks is made from `meta`. */
import type { ChannelAttribute, ChannelValue, Item, Rulebook } from '../rulebooks/index.js';

export type { ChannelValue, Item, Picture } from '../rulebooks/index.js';

export type Params = Record<string, string | number>;

export interface CheckMeta {
  id: string;
  severity: 'blocker' | 'advice';
  /** For people: what it demands and why. */
  describes: string;
  /**
   * What one would change: the goods' data, the fill that fits it to the channel, the translation of a value, or what fills
   * an axis.
   */
  fix: 'catalog' | 'fit' | 'translate' | 'axis';
  /** What is wrong, as the end of a sentence about the attribute: “is too short”. */
  fault?: string;
  /** Of what a fill can mend (`fix: 'fit'`): the step that does (core/fills/steps). */
  step?: string;
  /** Told among the limits of an attribute it holds for. */
  limit?: string;
  /** The finding in words; `label` is the channel attribute's. */
  say(params: Params, label: string): string;
}

/** Judges one value; compiled once per attribute, undefined where the attribute has no such limit. */
export interface ValueCheck {
  meta: CheckMeta;
  compile(attribute: ChannelAttribute, rulebook: Rulebook): ((value: ChannelValue) => Params | undefined) | undefined;
  /** Run as tests. */
  examples: {
    attribute: Partial<ChannelAttribute>;
    rules?: Rulebook['rules'];
    pass: ChannelValue[];
    fail: ChannelValue[];
  };
}

/** A value check compiled for one attribute. */
export interface CompiledCheck {
  id: string;
  test(value: ChannelValue): Params | undefined;
}

export interface ItemFault {
  /** The channel attribute the finding stands on. */
  attribute: string;
  params: Params;
}

/** Judges the values of one item together. */
export interface ItemCheck {
  meta: CheckMeta;
  compile(rulebook: Rulebook): ((item: Item) => ItemFault | undefined) | undefined;
  examples: { rules: Rulebook['rules']; pass: Item[]; fail: Item[] };
}

/** One sibling as family checks see it. */
export interface Sibling {
  item: Item;
  options: readonly (readonly [axis: string, value: string])[];
}

/** Judges siblings together; answers one fault or none for each, in order. */
export interface FamilyCheck {
  meta: CheckMeta;
  compile(rulebook: Rulebook): ((siblings: readonly Sibling[]) => (ItemFault | undefined)[]) | undefined;
  examples: { rules: Rulebook['rules']; pass: Sibling[][]; fail: Sibling[][] };
}

/** Judges items of a whole place by the keys they share. */
export interface CollectiveCheck {
  meta: CheckMeta;
  /** `attribute` is the one whose value makes an item's keys. */
  compile(rulebook: Rulebook): { attribute: string; keys(item: Item): string[] } | undefined;
  /** True where a group of this many is one too many. */
  judge(members: number): boolean;
}
