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

/** The step of a fill that mends what this check finds where an attribute has these limits, with its words. */
export function mendingStep(check: string, limits: Limits): { step: Fit; label: string } | undefined {
  const wanted = checkMeta.get(check)?.step;
  return offeredFits(limits).find(({ step }) => step.do === wanted);
}

export interface LikeValue {
  value: string;
  label: string;
  /** 0–100: how much of their letters two values share. */
  score: number;
  evidence: string[];
}

const leastScore = 30;
const mostLike = 3;

/** Values of a closed list that share pairs of letters with ours, the likest first (Sørensen–Dice over bigrams). */
export function likeValues(from: string, values: readonly string[]): LikeValue[] {
  const mine = pairsOf(from);
  return values
    .map((value): LikeValue => {
      const theirs = pairsOf(value);
      const shared = [...mine].filter((pair) => theirs.has(pair)).length;
      return {
        value,
        label: value,
        score: Math.round((200 * shared) / Math.max(1, mine.size + theirs.size)),
        evidence: [`${shared} pairs of letters shared`],
      };
    })
    .filter(({ score }) => score >= leastScore)
    .sort((a, b) => b.score - a.score)
    .slice(0, mostLike);
}

const pairsOf = (text: string) =>
  new Set(
    text
      .toLowerCase()
      .split(/[^\p{L}]+/u)
      .flatMap((word) => Array.from({ length: Math.max(0, word.length - 1) }, (_, i) => word.slice(i, i + 2))),
  );
