/** What an attribute is about, and the words that announce it: its own, and those of columns, which are known in many languages. */
import { type Sense, foldHeader, meanings, phrasesFor } from '../catalog/words/index.js';
import { foldLetters } from '../values/index.js';
import type { SoughtAttribute } from './model.js';

export interface Announced {
  senses: ReadonlySet<Sense>;
  /** Folded, their words parted by spaces. */
  names: readonly string[];
}

/** Senses whose words mean nothing else where a value stands beside them. */
const telling: ReadonlySet<Sense> = new Set<Sense>([
  'colour',
  'size',
  'material',
  'width',
  'height',
  'depth',
  'length',
  'diameter',
  'weight',
  'volume',
  'power',
  'voltage',
  'energyClass',
]);

export function announcedBy({ key, label, aliases = [] }: SoughtAttribute): Announced {
  const senses = new Set<Sense>();
  for (const name of [label, key.replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2').replace(/[_-]+/gu, ' '), ...aliases]) {
    const folded = foldHeader(name);
    if (folded.length > 1) for (const { sense } of meanings.get(folded) ?? []) senses.add(sense);
  }
  const own = [label, ...aliases].map((name) =>
    foldLetters(name)
      .replace(/[^\p{L}\p{N}]+/gu, ' ')
      .trim(),
  );
  const trade = phrasesFor(new Set([...senses].filter((sense) => telling.has(sense))));
  return { senses, names: [...new Set([...own, ...trade])].filter(Boolean) };
}
