import { z } from 'zod';
import { type Condition, conditionAttributes, conditionSchema } from '../../conditions/index.js';
import { mostAlternatives } from './first.js';
import type { FillRule } from './index.js';
import { type CompiledFill, type RuleContext, defineRule, noFill, servedBy } from './model.js';

/** The first case that holds gives the value; where none does, `otherwise` or nothing. */
export interface WhenRule {
  kind: 'when';
  cases: { if: Condition; then: FillRule }[];
  otherwise: FillRule | null;
}

const comparedIn = ({ cases }: WhenRule) => cases.flatMap((part) => conditionAttributes(part.if));

export const when = defineRule<WhenRule>({
  kind: 'when',
  label: 'When … then',
  schema: (inner) =>
    z.strictObject({
      kind: z.literal('when'),
      cases: z
        .array(z.strictObject({ if: conditionSchema, then: inner }))
        .min(1)
        .max(mostAlternatives),
      otherwise: inner.nullable(),
    }),
  reads: comparedIn,
  compares: comparedIn,
  below: ({ cases, otherwise }) => [...cases.map((part) => part.then), ...(otherwise ? [otherwise] : [])],
  compile<View>(rule: WhenRule, context: RuleContext<View>): CompiledFill<View> {
    const cases = rule.cases.map((part) => ({ holds: context.holds(part.if), then: context.compile(part.then) }));
    const otherwise: CompiledFill<View> = rule.otherwise ? context.compile(rule.otherwise) : noFill;
    const inside = [...cases.map(({ then }) => then), ...(rule.otherwise ? [otherwise] : [])];
    const chosen = (view: View) => cases.findIndex(({ holds }) => holds(view));
    const serving = (view: View) => cases[chosen(view)]?.then ?? otherwise;
    return {
      value: (view) => serving(view).value(view),
      blame: (view) => serving(view).blame(view),
      origin: (view) => serving(view).origin(view),
      serving: (view) => {
        const at = chosen(view);
        return servedBy(inside, at < 0 ? cases.length : at, view);
      },
      trace: (view) => {
        const at = chosen(view);
        const words = at < 0 ? `None of ${cases.length} cases holds` : `Case ${at + 1} of ${cases.length} holds`;
        const read = conditionAttributes((rule.cases[at] ?? rule.cases[0])?.if ?? { all: [] });
        const steps = read.flatMap((name) => context.source(name)?.step(view) ?? []);
        return [{ at: 'fill', words }, ...steps, ...serving(view).trace(view)];
      },
    };
  },
  say: ({ cases, otherwise }, words) =>
    [
      ...cases.map((part) => `when ${words.condition(part.if)}, ${words.rule(part.then)}`),
      `else ${otherwise ? words.rule(otherwise) : 'nothing'}`,
    ].join('; '),
  begin: ({ from, before }) => ({
    kind: 'when',
    cases: [{ if: { attribute: '', op: 'isNotEmpty' }, then: before ?? { kind: 'copy', from } }],
    otherwise: null,
  }),
  isWhole: (rule) => !comparedIn(rule).includes(''),
  carry: ({ cases, otherwise }, _, inner) => {
    const left = cases.flatMap((each) => {
      const then = inner(each.then);
      return then ? [{ ...each, then }] : [];
    });
    return left.length === 0
      ? undefined
      : { kind: 'when', cases: left, otherwise: otherwise && (inner(otherwise) ?? null) };
  },
  translate: (rule, _from, _to, inner) => ({
    ...rule,
    cases: rule.cases.map((part) => ({ ...part, then: inner(part.then) ?? part.then })),
    otherwise: rule.otherwise && (inner(rule.otherwise) ?? rule.otherwise),
  }),
});
