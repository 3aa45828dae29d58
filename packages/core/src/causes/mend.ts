/** How a cause is mended in a fill: another source behind the one there is, or one more pair of a translation. */
import { checkMeta } from '../checks/index.js';
import { type Fill, type FillRule, type Fit, type Limits, offeredFits } from '../fills/index.js';

/** What fills it now comes first; where that gives nothing, the source does. */
export function fallBackTo(before: Fill | null, source: string): Fill {
  const copy: FillRule = { kind: 'copy', from: source };
  if (!before) return { rule: copy, fit: [] };
  const of = before.rule.kind === 'first' ? before.rule.of : [before.rule];
  return { ...before, rule: { kind: 'first', of: [...of, copy] } };
}

/** The attribute of ours whose value a rule gives as it is; undefined where it makes one of several, or of none. */
export function copiedFrom(rule: FillRule): string | undefined {
  if (rule.kind === 'copy') return rule.from;
  return rule.kind === 'first' && rule.of[0] ? copiedFrom(rule.of[0]) : undefined;
}

/** The step of a fill that mends what this check finds where an attribute has these limits, with its words. */
export function mendingStep(check: string, limits: Limits): { step: Fit; label: string } | undefined {
  const wanted = checkMeta.get(check)?.step;
  return offeredFits(limits).find(({ step }) => step.do === wanted);
}
