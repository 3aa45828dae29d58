import { foldText, unitCode } from '../values/index.js';

/** A word shared by at least this share of the titles belongs to the family. */
const share = 0.8;

/**
 * What the titles of a family have in common is its own title: the words nearly all of them hold, without figures,
 * in the order of the title that has them most closely together. Undefined where they share nothing.
 */
export function familyTitle(titles: readonly string[]): string | undefined {
  const split = titles.map((title) =>
    title.split(/\s+/).map((word) => ({ word: word.replace(/^[^\p{L}‘'“]+|[^\p{L}’'”]+$/gu, ''), key: keyOf(word) })),
  );
  const counts = new Map<string, number>();
  for (const words of split)
    for (const key of new Set(words.map((word) => word.key)))
      if (key !== '') counts.set(key, (counts.get(key) ?? 0) + 1);
  const common = new Set([...counts].filter(([, n]) => n >= titles.length * share).map(([key]) => key));
  const spans = split
    .map((words) =>
      words.filter((word, i) => common.has(word.key) && words.findIndex((other) => other.key === word.key) === i),
    )
    .filter((words) => words.length === common.size && words.length > 0);
  const best = spans.find((words) => words.some((word) => /^\p{Lu}\p{Ll}/u.test(word.word))) ?? spans[0];
  const text = paired(best?.map((span) => span.word).join(' ') ?? '');
  return text === '' ? undefined : text.charAt(0).toUpperCase() + text.slice(1);
}

/** Quotes stay where each that opens is closed: the words between them may not all be shared. */
function paired(text: string): string {
  const opened = text.match(/(?<=^|\s)[‘'“]/g)?.length ?? 0;
  const closed = text.match(/[’'”](?=\s|$)/g)?.length ?? 0;
  return opened === closed ? text : text.replace(/(?<=^|\s)[‘'“]|[’'”](?=\s|$)/g, '');
}

/** Words that say nothing of a family by themselves. */
const idle = new Set(['for', 'of', 'the', 'with', 'and', 'x']);

/** Left of a measure when its figure is gone: “kg”, “cm”, “in”. Longer ones are words as well: a light bar, a stone. */
const isUnit = (word: string): boolean => word.length <= 2 && unitCode(word) !== undefined;

function keyOf(word: string): string {
  const folded = foldText(word).replace(/[^\p{L}\p{N}]+/gu, '');
  return /\d/.test(folded) || idle.has(folded) || isUnit(folded) ? '' : folded;
}
