/** Fills: how one channel attribute gets its value. */
import { z } from 'zod';
import { fitSchema } from './steps/index.js';
import { type Condition, conditionAttributes, conditionSchema } from '../conditions/index.js';

export type FillRule =
  | { kind: 'copy'; from: string }
  | { kind: 'fixed'; value: string }
  | { kind: 'compose'; parts: ComposePart[] }
  | { kind: 'translate'; from: string; table: Record<string, string>; otherwise: 'keep' | 'empty' }
  | { kind: 'first'; of: FillRule[] }
  /** The first case that holds gives the value; where none does, `otherwise` or nothing. */
  | { kind: 'when'; cases: { if: Condition; then: FillRule }[]; otherwise: FillRule | null };

/** Text between values; a value's `before` and `after` appear only with the value. */
export type ComposePart = { text: string } | { from: string; before?: string | undefined; after?: string | undefined };

const text = z.string().max(2000);
const source = z.string().max(200);
const mostParts = 50;
const mostAlternatives = 20;
const mostWords = 10_000;
const mostSteps = 20;
const deepestRule = 4;

const partSchema = z.union([
  z.strictObject({ text }),
  z.strictObject({ from: source, before: text.optional(), after: text.optional() }),
]);

const ruleSchema: z.ZodType<FillRule> = z.lazy(() =>
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('copy'), from: source }),
    z.strictObject({ kind: z.literal('fixed'), value: text.min(1) }),
    z.strictObject({ kind: z.literal('compose'), parts: z.array(partSchema).min(1).max(mostParts) }),
    z.strictObject({
      kind: z.literal('translate'),
      from: source,
      table: z
        .record(text, text)
        .refine((table) => Object.keys(table).length <= mostWords, `A table has ${mostWords} words at most`),
      otherwise: z.enum(['keep', 'empty']),
    }),
    z.strictObject({ kind: z.literal('first'), of: z.array(ruleSchema).min(1).max(mostAlternatives) }),
    z.strictObject({
      kind: z.literal('when'),
      cases: z
        .array(z.strictObject({ if: conditionSchema, then: ruleSchema }))
        .min(1)
        .max(mostAlternatives),
      otherwise: ruleSchema.nullable(),
    }),
  ]),
);

export const fillRuleSchema: z.ZodType<FillRule> = ruleSchema.refine(
  (rule) => depthOf(rule) <= deepestRule,
  `Rules are nested ${deepestRule} deep at most`,
);

const depthOf = (rule: FillRule): number => 1 + Math.max(0, ...rulesBelow(rule).map(depthOf));

/** Rules inside a rule. */
export function rulesBelow(rule: FillRule): FillRule[] {
  if (rule.kind === 'first') return rule.of;
  if (rule.kind !== 'when') return [];
  return [...rule.cases.map((part) => part.then), ...(rule.otherwise ? [rule.otherwise] : [])];
}

export const fillSchema = z.strictObject({ rule: fillRuleSchema, fit: z.array(fitSchema).max(mostSteps).default([]) });
export type Fill = z.infer<typeof fillSchema>;

/** What the cases of a rule compare, however deep they stand. */
export function comparedBy(rule: FillRule): string[] {
  const here = rule.kind === 'when' ? rule.cases.flatMap((part) => conditionAttributes(part.if)) : [];
  return [...here, ...rulesBelow(rule).flatMap(comparedBy)];
}

/** What a fill reads. */
export function fillSources(rule: FillRule): string[] {
  switch (rule.kind) {
    case 'copy':
    case 'translate':
      return [rule.from];
    case 'fixed':
      return [];
    case 'compose':
      return rule.parts.flatMap((part) => ('from' in part ? [part.from] : []));
    case 'first':
      return rule.of.flatMap(fillSources);
    case 'when':
      return [...rule.cases.flatMap((part) => conditionAttributes(part.if)), ...rulesBelow(rule).flatMap(fillSources)];
  }
}
