import { z } from 'zod';
import type { FillRule } from './index.js';
import { type CompiledFill, type RuleContext, defineRule, noFill, servedBy } from './model.js';

export interface FirstRule {
  kind: 'first';
  of: FillRule[];
}

export const mostAlternatives = 20;

export const first = defineRule<FirstRule>({
  kind: 'first',
  label: 'The first that is not empty',
  schema: (inner) => z.strictObject({ kind: z.literal('first'), of: z.array(inner).min(1).max(mostAlternatives) }),
  reads: () => [],
  below: ({ of }) => of,
  compile<View>(rule: FirstRule, context: RuleContext<View>): CompiledFill<View> {
    const of = rule.of.map((part) => context.compile(part));
    const leading: CompiledFill<View> = of[0] ?? noFill;
    const serving = (view: View) => of.findIndex((part) => part.value(view) !== undefined);
    return {
      value: (view) => {
        for (const part of of) {
          const value = part.value(view);
          if (value !== undefined) return value;
        }
        return undefined;
      },
      /** A value that is there but untranslated is nearer to an answer than one that is missing. */
      blame: (view) => of.map((part) => part.blame(view)).find(({ at }) => at === 'translation') ?? leading.blame(view),
      origin: (view) => (of[serving(view)] ?? leading).origin(view),
      serving: (view) => servedBy(of, serving(view), view),
      trace: (view) => {
        const at = serving(view);
        const words =
          at < 0
            ? `None of ${of.length} rules has a value`
            : `The first of ${of.length} rules with a value: number ${at + 1}`;
        return [{ at: 'fill', words }, ...(of[at] ?? leading).trace(view)];
      },
    };
  },
  say: ({ of }, words) => `the first of: ${of.map(words.rule).join('; ')}`,
  begin: ({ from, before }) => ({
    kind: 'first',
    of: [before && before.kind !== 'first' ? before : { kind: 'copy', from }],
  }),
  isWhole: ({ of }) => of.length > 0,
  carry: ({ of }, _, inner) => {
    const left = of.flatMap((rule) => inner(rule) ?? []);
    return left.length === 0 ? undefined : { kind: 'first', of: left };
  },
  translate: (rule, _from, _to, inner) => ({ ...rule, of: rule.of.map((part) => inner(part) ?? part) }),
});
