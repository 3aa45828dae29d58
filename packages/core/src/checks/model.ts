/** What a check is. One file a check; index.ts lists them; the docs page of checks is made from `meta`. */
import type { z } from 'zod';
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
   * an axis, or which goods the place gets.
   */
  fix: 'catalog' | 'fit' | 'translate' | 'axis' | 'assortment';
  /** What is wrong, as the end of a sentence about the attribute: “is too short”. */
  fault?: string;
  /** Of what a fill can mend (`fix: 'fit'`): the step that does (core/fills/steps). */
  step?: string;
  /** Told among the limits of an attribute it holds for. */
  limit?: string;
  /** The finding in words; `label` is the channel attribute's. */
  say(params: Params, label: string): string;
}

/** What all kinds of checks have. One with settings holds where a rule of the rulebook gives it some (`rulesOf`). */
export interface Check {
  meta: CheckMeta;
  /** What stands beside the check's id in a rule of a rulebook. */
  settings?: z.ZodObject;
  /** Channel attributes that its rules name, so that loading can tell those that are not there. */
  names?(rulebook: Rulebook): string[];
}

/** Judges one value: what is said of a fault, or nothing. */
export type ValueTest = (value: ChannelValue) => Params | undefined;

/** Judges one value; compiled once per attribute, undefined where the attribute has no such limit. */
export interface ValueCheck extends Check {
  compile(attribute: ChannelAttribute, rulebook: Rulebook): ValueTest | undefined;
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
  test: ValueTest;
}

export interface ItemFault {
  /** The channel attribute the finding stands on. */
  attribute: string;
  params: Params;
}

/** What a check may know of the place beside its rulebook. */
export interface CheckedAt {
  /** Its texts are in it (BCP 47). */
  language: string;
}

/** What a check may know of the goods beside what is sent of them. */
export interface CheckedGoods {
  /** Pieces the place is shown. */
  stock: number;
}

/** Judges the values of one item together. */
export interface ItemCheck extends Check {
  compile(
    rulebook: Rulebook,
    at?: CheckedAt,
  ): ((item: Item, goods?: CheckedGoods) => ItemFault | undefined) | undefined;
  examples: { rules: Rulebook['rules']; at?: CheckedAt; goods?: CheckedGoods; pass: Item[]; fail: Item[] };
}

/** One sibling as family checks see it. */
export interface Sibling {
  item: Item;
  /** Channel category, where it has one. */
  category?: string | undefined;
  options: readonly (readonly [axis: string, value: string])[];
}

/** Judges siblings together; answers one fault or none for each, in order. */
export interface FamilyCheck extends Check {
  compile(rulebook: Rulebook): ((siblings: readonly Sibling[]) => (ItemFault | undefined)[]) | undefined;
  examples: { rules: Rulebook['rules']; pass: Sibling[][]; fail: Sibling[][] };
}

/** Those of a place that share a key: how many items, and of how many families (a single is one). */
export interface Members {
  items: number;
  families: number;
}

/** Judges items of a whole place by the keys they share. */
export interface CollectiveCheck extends Check {
  /** `attribute` is the one whose value makes an item's keys. */
  compile(rulebook: Rulebook): { attribute: string; keys(item: Item): string[] } | undefined;
  /** True where they must not share it. */
  judge(members: Members): boolean;
}

/** Bounds how many items a place has. */
export interface PlaceCheck extends Check {
  /** `attribute` is the one the finding stands on. */
  compile(rulebook: Rulebook): { attribute: string; most: number } | undefined;
}

/** Parsed settings by the rule they were written in: attributes and categories compile the same rules over and over. */
const parsed = new WeakMap<object, unknown>();

/** Settings of every rule of this check, as its schema reads them. */
export function rulesOf<Schema extends z.ZodObject>(
  rulebook: Pick<Rulebook, 'rules'>,
  check: string,
  settings: Schema,
): z.infer<Schema>[] {
  return rulebook.rules.flatMap((rule) => {
    const { check: ruled, ...given } = rule;
    if (ruled !== check) return [];
    const known = parsed.get(rule) as z.infer<Schema> | undefined;
    const read = known ?? settings.parse(given);
    parsed.set(rule, read);
    return [read];
  });
}

/** Judges a text, and each of several; values of other kinds pass. */
export const ofText =
  (test: (text: string) => Params | undefined): ValueTest =>
  (value) => {
    if (typeof value === 'string') return test(value);
    if (typeof value !== 'object' || value.kind !== 'texts') return undefined;
    for (const text of value.texts) {
      const params = test(text);
      if (params) return params;
    }
    return undefined;
  };

/** An amount for examples, in the currency that ISO 4217 keeps for testing. */
export const exampleMoney = (minor: number): ChannelValue => ({ kind: 'money', minor, currency: 'XTS' });
