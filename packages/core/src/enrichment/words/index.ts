/** Words around values, of all languages together: a text seldom says which one it is in. */
import { de } from './de.js';
import { en } from './en.js';
import type { TextWords } from './model.js';
import { others } from './others.js';
import { sv } from './sv.js';

const all: Partial<TextWords>[] = [en, de, sv, ...others];

/** Phrases of one kind, the longest first. */
const merged = (field: keyof TextWords): string[] =>
  [...new Set(all.flatMap((words) => (words[field] ?? '').split('|')))]
    .filter(Boolean)
    .sort((a, b) => b.length - a.length);

export const words = {
  negations: merged('negations'),
  lacking: merged('lacking'),
  limits: merged('limits'),
  uses: merged('uses'),
  loads: merged('loads'),
  others: merged('others'),
  parts: merged('parts'),
  looksBefore: merged('looksBefore'),
  looksAfter: merged('looksAfter'),
  misleading: merged('misleading'),
  phrases: merged('phrases'),
  lights: merged('lights'),
  codes: merged('codes'),
  packBefore: merged('packBefore'),
  packAfter: merged('packAfter'),
  ofWhat: merged('ofWhat'),
  plain: merged('plain'),
  high: merged('high'),
  wide: merged('wide'),
  long: merged('long'),
  deep: merged('deep'),
  across: merged('across'),
  weighs: merged('weighs'),
  holds: merged('holds'),
  madeOf: merged('madeOf'),
  endings: merged('endings'),
};
