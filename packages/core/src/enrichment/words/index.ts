/** Words around values, of all languages together: a text seldom says which one it is in. */
import { de } from './de.js';
import { en } from './en.js';
import type { TextWords } from './model.js';
import { others } from './others.js';
import { sv } from './sv.js';

export type WordKind = keyof TextWords;

/** Phrases of a kind, the longest first. */
const merged = (kind: WordKind): string[] =>
  [...new Set([en, de, sv, ...others].flatMap((of: Partial<TextWords>) => (of[kind] ?? '').split('|')))]
    .filter(Boolean)
    .sort((a, b) => b.length - a.length);

const kinds = Object.keys(en) as WordKind[];

/** By kind; `per` makes of each whatever a reader needs. */
export const perKind = <T>(per: (list: readonly string[], kind: WordKind) => T): Record<WordKind, T> =>
  Object.fromEntries(kinds.map((kind) => [kind, per(merged(kind), kind)])) as Record<WordKind, T>;

export const words = perKind((list) => list);
