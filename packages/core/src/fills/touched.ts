/** What a change of a fill touches: where it changes nothing but words of a translation, just the goods that have them. */
import { type ClosedList, canonical, foldText } from '../values/index.js';
import type { Fill } from './model.js';
import type { FillRule } from './rules/index.js';

/** A translation as its source and its table; a copy of what is on a closed list is one without words. */
function asTable(rule: FillRule): { from: string; table: Record<string, string>; otherwise: string } | undefined {
  if (rule.kind === 'translate') return rule;
  return rule.kind === 'copy' ? { from: rule.from, table: {}, otherwise: 'keep' } : undefined;
}

/**
 * The source whose words are translated otherwise than before, and those words as the tables have them; undefined where more than
 * that changes. It holds for sources on a closed list with one value a product.
 */
export function changedWords(before: Fill | null, after: Fill | null): { from: string; words: string[] } | undefined {
  if (!before || !after || canonical(before.fit) !== canonical(after.fit)) return undefined;
  const [was, is] = [asTable(before.rule), asTable(after.rule)];
  if (!was || !is || was.from !== is.from || was.otherwise !== is.otherwise) return undefined;
  const words = [...new Set([...Object.keys(was.table), ...Object.keys(is.table)])];
  return { from: is.from, words: words.filter((word) => was.table[word] !== is.table[word]) };
}

/** Keys of a list that words of a table may mean: the key itself, or any name or spelling of the value, compared folded. */
export function keysMeant(words: readonly string[], list: ClosedList): string[] {
  const exact = new Set(words.map((word) => list.current(word)));
  const folded = new Set(words.map(foldText));
  return list.values.flatMap(({ key, names, spellings = [] }) => {
    const paths = Object.keys(names).map((language) => list.say(key, language));
    const written = [key, ...Object.values(names), ...paths, ...spellings];
    return exact.has(key) || written.some((name) => folded.has(foldText(name))) ? [key] : [];
  });
}
