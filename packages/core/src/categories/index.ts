/** Which of a channel's categories suits one of ours: ranked, with the evidence. */
import { foldText } from '../values/index.js';

export interface CategoryCandidate {
  path: string;
  /** Names from the root down to this category. */
  names: string[];
  words: string;
  isLeaf: boolean;
}

export interface CategoryQuestion {
  /** Names of our category from the root down. */
  names: string[];
  /** Titles of a few goods in it. */
  titles: string[];
  /** Where our neighbouring categories went. */
  neighbours: { names: string[]; chosen: string; chosenNames: string[] }[];
}

export interface CategorySuggestion {
  path: string;
  names: string[];
  /** 0–100. */
  score: number;
  evidence: string[];
}

const idle = new Set(['and', 'for', 'the', 'with', 'of', 'in', 'cm', 'set', 'other']);

/** Singular stems of the words of a text, without the idle ones. */
function stems(text: string): Set<string> {
  const words = foldText(text)
    .split(/[^\p{L}]+/u)
    .filter((word) => word.length > 2 && !idle.has(word));
  return new Set(words.map((word) => word.replace(/(?:ies)$/, 'y').replace(/(?<=[^s])s$/, '')));
}

/** Words that many categories share say little: weighted by how rare they are in the tree. */
export function compileSuggester(
  candidates: readonly CategoryCandidate[],
): (question: CategoryQuestion, most: number) => CategorySuggestion[] {
  const bags = candidates.map((candidate) => ({
    candidate,
    own: stems(`${candidate.names.at(-1) ?? ''} ${candidate.words}`),
    above: stems(candidate.names.slice(0, -1).join(' ')),
  }));
  const frequency = new Map<string, number>();
  for (const { own, above } of bags)
    for (const word of new Set([...own, ...above])) frequency.set(word, (frequency.get(word) ?? 0) + 1);
  const weight = (word: string) => Math.log(1 + bags.length / (frequency.get(word) ?? bags.length));

  return (question, most) => {
    const leaf = stems(question.names.at(-1) ?? '');
    const root = stems(question.names.slice(0, -1).join(' '));
    const titles = question.titles.map(stems);
    const sum = (words: Iterable<string>) => [...words].reduce((total, word) => total + weight(word), 0);
    const reach = sum(leaf) * 2 + sum(root) + 3;
    return bags
      .map(({ candidate, own, above }) => {
        const evidence: string[] = [];
        const shared = [...leaf].filter((word) => own.has(word));
        const aside = [...leaf, ...root].filter((word) => (above.has(word) || own.has(word)) && !shared.includes(word));
        const named = titles.filter((words) => [...own].some((word) => words.has(word))).length;
        const share = titles.length > 0 ? named / titles.length : 0;
        const near = question.neighbours.filter((neighbour) => sameParent(neighbour.chosen, candidate.path));
        let score = sum(shared) * 2 + sum(aside) * 0.9 + share * 2.5 + Math.min(1.5, near.length * 0.75);
        if (shared.length > 0) evidence.push(`words ${shared.join(', ')}`);
        if (named > 0) evidence.push(`${named} of ${titles.length} titles name it`);
        if (near[0]) evidence.push(`you chose ${near[0].chosenNames.at(-1)} for ${near[0].names.join(' / ')}`);
        if (!candidate.isLeaf) score *= 0.55;
        return {
          path: candidate.path,
          names: candidate.names,
          score: Math.min(99, Math.round((score / reach) * 100)),
          evidence,
        };
      })
      .filter((suggestion) => suggestion.score >= 12 && suggestion.evidence.length > 0)
      .sort((a, b) => b.score - a.score || (a.path < b.path ? -1 : 1))
      .slice(0, most);
  };
}

function sameParent(a: string, b: string): boolean {
  return a.slice(0, a.lastIndexOf('/')) === b.slice(0, b.lastIndexOf('/')) && a.includes('/');
}
