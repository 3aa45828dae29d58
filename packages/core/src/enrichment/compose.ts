/** Texts composed of what goods hold: a part for each value, with words that stand there only if the value does. */

/** A value with words around it; where there is no value, none of the part is there. Without a source: words alone. */
export interface Part {
  /** A slot of the goods (attribute, or attribute@language), or `#options`; null: words alone. */
  of: string | null;
  before: string;
  after: string;
}

/** All of a variant's options, one after the other. */
export const optionsSource = '#options';

/**
 * The text of these parts. Words alone stand at the beginning and the end as they are, and between values only where a value
 * stands on either side of them; what is left of marks at the ends and of doubled spaces goes.
 */
export function compose(parts: readonly Part[], valueOf: (source: string) => string | undefined): string {
  const said = parts.map(({ of, before, after }) => {
    if (of === null) return { text: `${before}${after}`, isValue: false };
    const value = valueOf(of)?.trim() ?? '';
    return { text: value === '' ? '' : `${before}${value}${after}`, isValue: true };
  });
  const hasValue = (list: readonly { text: string; isValue: boolean }[]) => {
    const values = list.filter(({ isValue }) => isValue);
    return values.length === 0 || values.some(({ text }) => text !== '');
  };
  const text = said
    .filter(({ isValue }, i) => isValue || (hasValue(said.slice(0, i)) && hasValue(said.slice(i + 1))))
    .map((part) => part.text)
    .join('');
  return paired(text)
    .replace(/\s+/gu, ' ')
    .replace(/ +([,;:.!?])/gu, '$1')
    .replace(/([,;])(?: ?[,;])+/gu, '$1')
    .replace(/\(\s*\)/gu, '')
    .replace(/^[\s,;:–—·|/-]+|[\s,;:–—·|/-]+$/gu, '');
}

/** Without brackets whose other half went with a value that is not there. */
function paired(text: string): string {
  const lonely = new Set<number>();
  const open: number[] = [];
  for (const { 0: bracket, index } of text.matchAll(/[()]/g))
    if (bracket === '(') open.push(index);
    else if (open.pop() === undefined) lonely.add(index);
  for (const at of open) lonely.add(at);
  return lonely.size === 0
    ? text
    : [...text.matchAll(/[^]/g)].map(({ 0: letter, index }) => (lonely.has(index) ? '' : letter)).join('');
}

export interface Composed {
  id: number;
  text: string;
  /** Those alike are shown once: what goods are of, and which parts they have. */
  kind: string;
}

/** Goods to look at before all are composed: the shortest and the longest text, then one of each kind, round and round. */
export function varied<T extends Composed>(composed: readonly T[], most: number): T[] {
  const byLength = [...composed].sort((a, b) => a.text.length - b.text.length || a.id - b.id);
  const chosen = new Set<T>();
  const [shortest, longest] = [byLength[0], byLength.at(-1)];
  if (shortest && most > 0) chosen.add(shortest);
  if (longest && chosen.size < most) chosen.add(longest);
  const kinds = new Map<string, T[]>();
  for (const one of composed) kinds.set(one.kind, [...(kinds.get(one.kind) ?? []), one]);
  for (let round = 0; chosen.size < Math.min(most, composed.length); round++)
    for (const list of kinds.values()) {
      const one = list[round];
      if (one && chosen.size < most) chosen.add(one);
    }
  return [...chosen];
}
