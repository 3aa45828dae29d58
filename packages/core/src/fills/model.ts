/** Fills: how one channel attribute gets its value. */
import { z } from 'zod';

export type FillRule =
  | { kind: 'copy'; from: string }
  | { kind: 'fixed'; value: string }
  | { kind: 'compose'; parts: ComposePart[] }
  | { kind: 'translate'; from: string; table: Record<string, string>; otherwise: 'keep' | 'empty' }
  | { kind: 'first'; of: FillRule[] };

/** Text between values; a value's `before` and `after` appear only with the value. */
export type ComposePart = { text: string } | { from: string; before?: string | undefined; after?: string | undefined };

const partSchema = z.union([
  z.strictObject({ text: z.string() }),
  z.strictObject({ from: z.string(), before: z.string().optional(), after: z.string().optional() }),
]);

export const fillRuleSchema: z.ZodType<FillRule> = z.lazy(() =>
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('copy'), from: z.string() }),
    z.strictObject({ kind: z.literal('fixed'), value: z.string().min(1) }),
    z.strictObject({ kind: z.literal('compose'), parts: z.array(partSchema).min(1) }),
    z.strictObject({
      kind: z.literal('translate'),
      from: z.string(),
      table: z.record(z.string(), z.string()),
      otherwise: z.enum(['keep', 'empty']),
    }),
    z.strictObject({ kind: z.literal('first'), of: z.array(fillRuleSchema).min(1) }),
  ]),
);

export const fitSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('plain-text') }),
  z.strictObject({ do: z.literal('trim-at-word'), length: z.int().positive() }),
  z.strictObject({ do: z.literal('sentence-case') }),
  z.strictObject({ do: z.literal('replace'), find: z.string().min(1), with: z.string() }),
]);
/** A step that cleans or shortens the text a rule gave. */
export type Fit = z.infer<typeof fitSchema>;

export const fillSchema = z.strictObject({ rule: fillRuleSchema, fit: z.array(fitSchema).default([]) });
export type Fill = z.infer<typeof fillSchema>;

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
  }
}
