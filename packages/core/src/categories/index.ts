/** Which of a channel's categories suits each of ours: ranked, with the evidence and how likely it is right. */
import { type Compiled, type Own, compile } from './compiled.js';
import type { CategoryQuestion, CategorySuggestion, ChosenMap } from './model.js';
import { type Scorer, compileScorer } from './score.js';
import { evidenceOf } from './evidence.js';
import { type Judged, judge } from './together.js';

export { loadLexicon } from '../lexicon/relations.js';
export type * from './model.js';

/** Less likely is not worth showing: by itself, and beside the likeliest. */
const leastLikely = { p: 0.001, ofBest: 0.005 };
const sure = { p: 0.9, base: 8 };

/** Suggestions by the path of our category, best first; empty where nothing tells. */
export function suggestCategories(question: CategoryQuestion): Map<string, CategorySuggestion[]> {
  const compiled = compile(question);
  const { own, targets } = compiled;
  if (targets.length === 0) return new Map(question.own.map(({ path }) => [path, []]));
  const scorer = compileScorer(compiled);
  const judged = judgeCarefully(
    compiled,
    own.map((one) => scorer.score(one)),
    question.chosen,
  );
  const wanted = new Map<number, number>();
  for (const { p } of judged) {
    const first = bestOf(p);
    wanted.set(first, (wanted.get(first) ?? 0) + 1);
  }
  const around = { ...question, compiled, scorer, judged, wanted };
  return new Map(own.map((one, i) => [one.of.path, suggestionsFor(one, judged[i], around)]));
}

/**
 * What was chosen elsewhere changes a first place where the new one is this likely, and by so much likelier than the old one
 * was: a guess is no reason to give another up.
 */
const surer = { p: 0.35, by: 0.1 };

/** With what was chosen, but where that only makes another guess out of a guess. */
function judgeCarefully(compiled: Compiled, bases: readonly Float64Array[], chosen: readonly ChosenMap[]): Judged[] {
  const judged = judge(compiled, bases, chosen);
  if (chosen.length === 0) return judged;
  const bare = judge(compiled, bases, []);
  const fixed = new Set(chosen.map(({ own }) => own));
  return judged.map((one, i) => {
    const was = bare[i];
    if (!was || fixed.has(compiled.own[i]?.of.path ?? '')) return one;
    const [first, before] = [bestOf(one.p), bestOf(was.p)];
    const isGuess = (one.p[first] ?? 0) < Math.max(surer.p, (was.p[before] ?? 0) + surer.by);
    return isGuess && before !== first ? was : one;
  });
}

interface Around extends CategoryQuestion {
  compiled: Compiled;
  scorer: Scorer;
  judged: readonly Judged[];
  /** By candidate: how many of ours would go there. */
  wanted: ReadonlyMap<number, number>;
}

function suggestionsFor(own: Own, judged: Judged | undefined, around: Around): CategorySuggestion[] {
  const { compiled, most, wanted, chosen } = around;
  if (!judged) return [];
  const { p, base } = judged;
  const isChosen = chosen.some(({ own: path }) => path === own.of.path);
  const ranked = [...p.keys()].sort((a, b) => (p[b] ?? 0) - (p[a] ?? 0) || a - b).slice(0, most);
  const first = bestOf(base);
  return ranked.flatMap((t) => {
    const [likely, target] = [p[t] ?? 0, compiled.targets[t]];
    if (!target || likely < Math.max(leastLikely.p, leastLikely.ofBest * (p[ranked[0] ?? t] ?? 0))) return [];
    const evidence = evidenceOf(own, t, around);
    if (evidence.length === 0 && !isChosen) return [];
    // Of several that would share one, some are of one beside it.
    const isAlone = wanted.get(t) === 1;
    const isSure = isAlone && likely >= sure.p && t === first && (base[t] ?? 0) >= sure.base;
    return [{ path: target.of.path, p: likely, evidence, isSure }];
  });
}

const bestOf = (scores: Float64Array): number =>
  scores.reduce((best, one, t) => (one > (scores[best] ?? -Infinity) ? t : best), 0);
