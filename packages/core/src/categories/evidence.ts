/** Why a candidate is suggested: which words met which, what titles say, and where the neighbours go. */
import { type Compiled, type Own, idsOf } from './compiled.js';
import type { Scorer } from './score.js';
import type { Judged } from './together.js';

const mostWords = 4;
const saysMuch = 0.3;
const saysSomething = 0.1;

interface Around {
  compiled: Compiled;
  scorer: Scorer;
  judged: readonly Judged[];
}

/** What speaks for a candidate, in words, the weightiest first. */
export function evidenceOf(own: Own, t: number, { compiled, scorer, judged }: Around): string[] {
  const { wordOf, targets, related } = compiled;
  const target = targets[t];
  if (!target) return [];
  const evidence: string[] = [];
  const spell = (id: number) => wordOf(id).replaceAll('_', ' ');
  const met = (ids: readonly number[], bag: ReadonlyMap<number, number>): string[] =>
    ids.flatMap((id) => {
      if (bag.has(id)) return [spell(id)];
      const near = [...(related.get(id) ?? [])].filter(([theirs]) => bag.has(theirs)).sort((a, b) => b[1] - a[1])[0];
      return near ? [`${spell(id)} ~ ${spell(near[0])}`] : [];
    });
  const [named, above] = [met(idsOf(own.leaf), target.wholeBag), met(idsOf(own.above), target.wholeBag)];
  if (named.length > 0) evidence.push(`its name: ${unique(named)}`);
  if (above.length > 0) evidence.push(`what it stands under: ${unique(above)}`);
  const titled = [...own.titles.values()]
    .map(({ word, share, typical }) => ({ word, share, near: typical * scorer.nearest(word.id, t, 'leaf') }))
    .filter(({ near }) => near > saysSomething)
    .sort((a, b) => b.near - a.near);
  const [best] = titled;
  if (best)
    evidence.push(
      `${Math.round(best.share * own.of.titles.length)} of ${own.of.titles.length} titles say ${spell(best.word.id)}`,
    );
  const beside = compiled.own.flatMap((other, i) => {
    if (other === own || other.parent !== own.parent) return [];
    const there =
      judged[i]?.p.reduce((sum, one, at) => (targets[at]?.parent === target.parent ? sum + one : sum), 0) ?? 0;
    return there > saysMuch ? [other.of.names.at(-1) ?? ''] : [];
  });
  if (beside.length > 0 && target.parent !== '')
    evidence.push(`beside it: ${beside.slice(0, mostWords).join(', ')}${beside.length > mostWords ? ' …' : ''}`);
  return evidence;
}

const unique = (words: readonly string[]) => [...new Set(words)].slice(0, mostWords).join(', ');
