/** Kinds of changes between two versions of a rulebook, what asks most of goods first. */
import type { RulebookChangeAnswer } from '@velvet-shelf/contract';
import { count } from '../design/words';

export const changeKinds: readonly RulebookChangeAnswer['kind'][] = [
  'tightened',
  'removed',
  'added',
  'changed',
  'loosened',
];

/** "2 tightened · 1 added" */
export const sayKinds = (changes: readonly RulebookChangeAnswer[]): string =>
  changeKinds
    .flatMap((kind) => {
      const n = changes.filter((change) => change.kind === kind).length;
      return n > 0 ? [`${count(n)} ${kind}`] : [];
    })
    .join(' · ');
