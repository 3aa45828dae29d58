/** A supplier's words whose meaning our own goods tell, and that nobody has taken yet. */
import type { BatchAnswer } from '@velvet-shelf/contract';

export type List = BatchAnswer['translations'][number];
type Word = List['values'][number];

export const untaken = (list: List) => list.values.filter((value) => value.learnt !== null);

export const asValues = (words: Word[]) =>
  Object.fromEntries(words.map((word) => [word.value, word.learnt?.ours ?? word.value]));

/** All of a batch: by list, how many, and the map that takes them. */
export function untakenWords(batch: BatchAnswer) {
  const told = batch.translations.map((list) => [list, untaken(list)] as const).filter(([, words]) => words.length > 0);
  const map = batch.map.map((entry) => {
    const { column, target } = entry;
    if (target.to !== 'attribute') return entry;
    const words = told.find(([list]) => list.column === column && list.attribute === target.attribute)?.[1];
    return words ? { column, target: { ...target, values: { ...target.values, ...asValues(words) } } } : entry;
  });
  return { told, count: told.reduce((sum, [, words]) => sum + words.length, 0), map };
}
