/** What an attribute is about, from the words it is called by; words of columns are known in many languages. */
import { type Sense, foldHeader, meanings } from '../catalog/words/index.js';
import type { SoughtAttribute } from './model.js';

export function sensesOf({ key, label, aliases = [] }: SoughtAttribute): ReadonlySet<Sense> {
  const senses = new Set<Sense>();
  for (const name of [label, key.replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2').replace(/[_-]+/gu, ' '), ...aliases]) {
    const folded = foldHeader(name);
    if (folded.length > 1) for (const { sense } of meanings.get(folded) ?? []) senses.add(sense);
  }
  return senses;
}
