/** Every rule a fill can have, in the order in which they are offered. */
import { z } from 'zod';
import type { ChannelAttribute } from '../../rulebooks/index.js';
import { type ComposeRule, compose } from './compose.js';
import { type ConvertRule, convert } from './convert.js';
import { type CopyRule, copy } from './copy.js';
import { type FirstRule, first } from './first.js';
import { type FixedRule, fixed } from './fixed.js';
import { type LayoutRule, layout } from './layout.js';
import type { CompiledFill, RuleContext, RuleKind, RulePath, RuleWords, Taking } from './model.js';
import { type TranslateRule, translate } from './translate.js';
import { type WhenRule, when } from './when.js';

export type FillRule =
  CopyRule | ConvertRule | FixedRule | ComposeRule | LayoutRule | TranslateRule | FirstRule | WhenRule;

export const rules: readonly RuleKind[] = [copy, convert, fixed, compose, layout, translate, first, when];

/** Those that can give an attribute of this type its value. */
export const rulesFor = (type: ChannelAttribute['type']): readonly RuleKind[] =>
  rules.filter(({ takes }) => takes === undefined || takes.includes(type));

const byKind = new Map(rules.map((rule) => [rule.kind, rule]));

function kindOf({ kind }: Pick<FillRule, 'kind'>): RuleKind {
  const rule = byKind.get(kind);
  if (!rule) throw new Error(`There is no rule “${kind}”`);
  return rule;
}

const deepestRule = 4;

/** Each of them is an object that says its kind: Zod tells by it which one is meant, and what is wrong with that one. */
type Told = Parameters<typeof z.discriminatedUnion>[1];
const ruleSchema: z.ZodType<FillRule> = z.lazy(
  () =>
    z.discriminatedUnion(
      'kind',
      rules.map((rule) => rule.schema(ruleSchema)) as unknown as Told,
    ) as z.ZodType<FillRule>,
);

export const fillRuleSchema: z.ZodType<FillRule> = ruleSchema.refine(
  (rule) => depthOf(rule) <= deepestRule,
  `Rules are nested ${deepestRule} deep at most`,
);

const depthOf = (rule: FillRule): number => 1 + Math.max(0, ...rulesBelow(rule).map(depthOf));

/** Rules inside a rule. */
export const rulesBelow = (rule: FillRule): FillRule[] => kindOf(rule).below(rule);

/** The rule at the end of a way down; undefined where there is none. */
export const ruleAt = (rule: FillRule, path: RulePath): FillRule | undefined =>
  path.reduce<FillRule | undefined>((at, place) => at && rulesBelow(at)[place], rule);

/** What the cases of a rule compare, however deep they stand. */
export const comparedBy = (rule: FillRule): string[] => [
  ...kindOf(rule).compares(rule),
  ...rulesBelow(rule).flatMap(comparedBy),
];

/** What a rule reads, however deep it does so. */
export const fillSources = (rule: FillRule): string[] => [
  ...kindOf(rule).reads(rule),
  ...rulesBelow(rule).flatMap(fillSources),
];

/** Currencies whose prices a rule converts, however deep it does so. */
export const fillCurrencies = (rule: FillRule): string[] => [
  ...kindOf(rule).converts(rule),
  ...rulesBelow(rule).flatMap(fillCurrencies),
];

/** Whether all is chosen that a rule and those inside it need. */
export const isWholeRule = (rule: FillRule): boolean =>
  kindOf(rule).isWhole(rule) && rulesBelow(rule).every(isWholeRule);

export const compileRule = <View>(rule: FillRule, context: RuleContext<View>): CompiledFill<View> =>
  kindOf(rule).compile(rule, context);

/** A rule in words; those inside it are told by the same words. */
export function sayRule(rule: FillRule, words: Omit<RuleWords, 'rule'>): string {
  const all: RuleWords = { ...words, rule: (inner) => kindOf(inner).say(inner, all) };
  return all.rule(rule);
}

/** The beginning of a rule of this kind. */
export const beginRule = (
  kind: FillRule['kind'],
  given: { from: string; before: FillRule | undefined; value: string },
): FillRule => kindOf({ kind }).begin(given);

/**
 * The rule with one more pair of a translation; a copy becomes a translation that keeps what it does not know. Undefined where no
 * pair can be added: what is fixed or composed is changed itself.
 */
export const withTranslation = (rule: FillRule, from: string, to: string): FillRule | undefined =>
  kindOf(rule).translate(rule, from, to, (inner) => withTranslation(inner, from, to));

/** What is left of a rule for another attribute; undefined where nothing is. */
export const carryRule = (rule: FillRule, taking: Taking): FillRule | undefined =>
  kindOf(rule).carry(rule, taking, (inner) => carryRule(inner, taking));

export { noFill } from './model.js';
export type { ComposePart } from './compose.js';
export type { CompiledFill, Link, RuleContext, RulePath, RuleSource, TraceStep } from './model.js';
