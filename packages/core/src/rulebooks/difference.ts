/** One difference between two versions of a rulebook, and how what changed is said. */

/** One difference: whether more is asked for, less, or something else. */
export interface Difference {
  words: string;
  way: 'tighter' | 'looser' | 'other' | 'advice';
}

export const other = (words: string): Difference => ({ words, way: 'other' });

export const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const mostSaid = 5;

export function sayValue(value: unknown): string {
  if (value === undefined) return 'none';
  if (Array.isArray(value)) {
    const said = value.slice(0, mostSaid).map(sayValue).join(', ');
    return value.length > mostSaid ? `${said} and ${value.length - mostSaid} more` : said;
  }
  return typeof value === 'string' ? `“${value}”` : JSON.stringify(value);
}

/** What a value is now; of two lists, what came to one and what left it. */
export function sayChanged(was: unknown, is: unknown): string {
  if (!Array.isArray(was) || !Array.isArray(is)) return `now ${sayValue(is)}, was ${sayValue(was)}`;
  const without = (list: readonly unknown[], but: readonly unknown[]) => {
    const known = new Set(but.map((each) => JSON.stringify(each)));
    return list.filter((each) => !known.has(JSON.stringify(each)));
  };
  const [more, fewer] = [without(is, was), without(was, is)];
  const parts = [
    ...(more.length > 0 ? [`with ${sayValue(more)}`] : []),
    ...(fewer.length > 0 ? [`without ${sayValue(fewer)}`] : []),
  ];
  return parts.length > 0 ? `now ${parts.join(', ')}` : 'in another order';
}
