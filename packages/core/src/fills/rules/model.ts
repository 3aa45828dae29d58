/** What a rule of a fill is: where a channel attribute gets its value from. One file a rule; index.ts lists them. */
import type { ZodType } from 'zod';
import type { Condition } from '../../conditions/index.js';
import type { ChannelAttribute, ChannelValue } from '../../rulebooks/index.js';
import type { Rate } from '../../values/index.js';
import type { FillRule } from './index.js';

/** Where a value comes from or fails to: the link one would mend. */
export type Link =
  /** `listed`: key of the value it has, where that is one on a closed list. */
  | { at: 'catalog'; attribute: string; language?: string; listed?: string }
  /** `of`: the attribute whose list the value is on, by its key. */
  | { at: 'translation'; value: string; of?: string }
  | { at: 'fill' }
  | { at: 'pin' };

export interface TraceStep {
  at: 'channel' | 'pin' | 'fill' | 'fit' | 'catalog';
  /** A sentence for people. */
  words: string;
  /** The value after this step, as text. */
  value?: string;
  /** Of a step in the catalog: what it reads, as people call it. */
  label?: string;
  /** Catalog attribute the step reads, so that the trace can go on to the claims. */
  attribute?: string;
  language?: string;
}

/** A rule ready to be asked for the value of one variant; `View` is what it is seen with. */
export interface CompiledFill<View> {
  value(view: View): ChannelValue | undefined;
  /** The first missing link, read from the channel back; only asked where `value` gave none. */
  blame(view: View): Link;
  /** What stands behind the value, for findings on the value itself. */
  origin(view: View): Link;
  trace(view: View): TraceStep[];
  /** Of rules inside it, the one that serves this variant and the way on from there; absent where there are none. */
  serving?(view: View): RulePath;
}

/** The way down to a rule inside another: places among the rules below, as `rulesBelow` lists them; empty is the rule itself. */
export type RulePath = readonly number[];

/** The way to the one at a place among the rules inside, and on from there. */
export const servedBy = <View>(
  inside: readonly (CompiledFill<View> | undefined)[],
  place: number,
  view: View,
): RulePath => {
  const rule = inside[place];
  return rule ? [place, ...(rule.serving?.(view) ?? [])] : [];
};

/** Something of the goods that a rule reads. */
export interface RuleSource<View> {
  label: string;
  link: Link;
  read(view: View): ChannelValue | undefined;
  /** Key of the listed value it reads, where it reads one: names change, and tables go on holding. */
  refer?(view: View): string | undefined;
  /** What such a key stands for now, where values of the list were made one. */
  current?(key: string): string;
  /** Reading it, as a step of a trace. */
  step(view: View): TraceStep;
}

/** What a rule is compiled with. */
export interface RuleContext<View> {
  /** Undefined where the place knows nothing of this name. Prices are the place's, or those kept in another currency. */
  source(name: string, currency?: string): RuleSource<View> | undefined;
  /** The place's currency (ISO 4217), and what one of another is in it, where the company says so. */
  currency: string;
  rate(from: string): Rate | undefined;
  holds(condition: Condition): (view: View) => boolean;
  compile(rule: FillRule): CompiledFill<View>;
}

/** How the parts of a rule are told. */
export interface RuleWords {
  source(name: string): string;
  condition(condition: Condition): string;
  rule(rule: FillRule): string;
}

/** What another attribute takes of a rule that is carried to it. */
export interface Taking {
  /** The value as that attribute has it; undefined where it takes no such one. */
  value(value: string): string | undefined;
  /** Whether it can be filled from this. */
  source(name: string): boolean;
  /** Says what is left out. */
  leave(words: string): void;
}

interface RuleDefinition<Rule> {
  kind: string;
  /** As it is offered: “Copy an attribute”. */
  label: string;
  /** Types of attributes it is for; absent: all. */
  takes?: readonly ChannelAttribute['type'][];
  /** `inner` is the schema of any rule. */
  schema(inner: ZodType<FillRule>): ZodType<Rule>;
  /** Names it reads itself. */
  reads(rule: Rule): string[];
  /** Names its own conditions compare. */
  compares?(rule: Rule): string[];
  /** Currencies whose prices it converts itself. */
  converts?(rule: Rule): string[];
  /** Rules inside it. */
  below?(rule: Rule): FillRule[];
  compile<View>(rule: Rule, context: RuleContext<View>): CompiledFill<View>;
  say(rule: Rule, words: RuleWords): string;
  /** Its beginning in an editor: `from` is a source that fits, `before` the rule there was, `value` one that the channel takes. */
  begin(given: { from: string; before: FillRule | undefined; value: string }): Rule;
  /** Whether all is chosen that it needs; rules inside it are asked by themselves. */
  isWhole(rule: Rule): boolean;
  /** The rule with one more pair of a translation; undefined where none can be added. */
  translate?(rule: Rule, from: string, to: string, inner: (rule: FillRule) => FillRule | undefined): FillRule;
  /** What is left of it for another attribute; undefined where nothing is. Absent: it is carried whole where all it reads can be read. */
  carry?(rule: Rule, taking: Taking, inner: (rule: FillRule) => FillRule | undefined): FillRule | undefined;
}

/** A rule whatever its settings, as those know it who work on a whole fill. */
export interface RuleKind {
  kind: string;
  label: string;
  takes?: readonly ChannelAttribute['type'][];
  schema(inner: ZodType<FillRule>): ZodType<FillRule>;
  reads(rule: FillRule): string[];
  compares(rule: FillRule): string[];
  converts(rule: FillRule): string[];
  below(rule: FillRule): FillRule[];
  compile<View>(rule: FillRule, context: RuleContext<View>): CompiledFill<View>;
  say(rule: FillRule, words: RuleWords): string;
  begin(given: { from: string; before: FillRule | undefined; value: string }): FillRule;
  isWhole(rule: FillRule): boolean;
  translate(
    rule: FillRule,
    from: string,
    to: string,
    inner: (rule: FillRule) => FillRule | undefined,
  ): FillRule | undefined;
  carry(rule: FillRule, taking: Taking, inner: (rule: FillRule) => FillRule | undefined): FillRule | undefined;
}

/** Whether all of these can be read for the other attribute; says what cannot. */
export function isReadable(names: readonly string[], taking: Taking): boolean {
  const lost = names.filter((name) => !taking.source(name));
  if (lost.length > 0) taking.leave(`what reads ${lost.join(', ')}`);
  return lost.length === 0;
}

/** The index asks a kind about rules of its own kind only. */
export const defineRule = <Rule extends FillRule>(rule: RuleDefinition<Rule>): RuleKind => {
  const own = (given: FillRule) => given as Rule;
  return {
    ...rule,
    reads: (given) => rule.reads(own(given)),
    compares: (given) => rule.compares?.(own(given)) ?? [],
    converts: (given) => rule.converts?.(own(given)) ?? [],
    below: (given) => rule.below?.(own(given)) ?? [],
    compile: (given, context) => rule.compile(own(given), context),
    say: (given, words) => rule.say(own(given), words),
    isWhole: (given) => rule.isWhole(own(given)),
    translate: (given, from, to, inner) => rule.translate?.(own(given), from, to, inner),
    carry: (given, taking, inner) => {
      if (rule.carry) return rule.carry(own(given), taking, inner);
      return isReadable(rule.reads(own(given)), taking) ? given : undefined;
    },
  };
};

/** For attributes without a fill, and rules whose source is not known. */
export const noFill: CompiledFill<unknown> = {
  value: () => undefined,
  blame: () => ({ at: 'fill' }),
  origin: () => ({ at: 'fill' }),
  trace: () => [{ at: 'fill', words: 'No fill gives this attribute a value' }],
};

/** Bounds of what a rule holds. */
export const longestText = 2000;
export const longestName = 200;
