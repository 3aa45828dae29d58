import { foldText } from '../values/index.js';

/** What the titles of a family have in common at their beginning: its own title. Undefined where that is nothing. */
export function familyTitle(titles: readonly string[]): string | undefined {
  const [first, ...others] = titles.map((title) => title.split(/\s+/));
  if (!first) return undefined;
  const bare = (word: string | undefined) => (word === undefined ? '' : foldText(word).replace(/[^\p{L}\p{N}]+$/u, ''));
  let length = first.length;
  for (const other of others) {
    let same = 0;
    while (same < length && bare(first[same]) === bare(other[same]) && bare(first[same]) !== '') same++;
    length = same;
  }
  const common = first.slice(0, length).join(' ').replace(/[\s,;:–(-]+$/u, '');
  return common === '' ? undefined : common;
}
