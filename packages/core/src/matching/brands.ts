/** Brands as different sources write them. */
import { plainLetters } from '../lexicon/index.js';

/** Forms of companies, and what they call themselves beside their name. */
const forms = new Set(
  'gmbh|mbh|ag|kg|ohg|gbr|ug|co|cie|ltd|limited|plc|llc|llp|inc|corp|corporation|company|ab|hb|as|asa|aps|oy|oyj|bv|nv|sa|sas|sarl|srl|spa|sl|kft|sro|group|gruppe|holding|international|intl'.split(
    '|',
  ),
);
const joints = new Set(['and', 'und', 'och', 'et', 'y', 'e', 'the', 'by']);

/** Words of a brand, without signs, and without what kind of company it is where something else is left. */
export function brandWords(brand: string): string[] {
  const words = plainLetters(brand)
    .replace(/(?<=\b[a-z])\.(?=[a-z]\b)/gu, '')
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '' && !joints.has(word));
  const own = words.filter((word) => !forms.has(word));
  return own.length > 0 ? own : words;
}

/**
 * Whether two brands are one: equal once signs, umlauts written out and forms of companies no longer count, or one the
 * beginning of the other ("Brackwater", "Brackwater Pottery"), or, from seven letters, one sign apart.
 */
export function isSameBrand(a: readonly string[], b: readonly string[]): boolean {
  const [x, y] = [a.join(''), b.join('')];
  if (x === y) return true;
  const [short, long] = x.length < y.length ? [x, y] : [y, x];
  if (short.length >= 4 && long.startsWith(short)) return true;
  return short.length >= 7 && isOneApart(short, long);
}

/** One sign put in, left out, or another. The first is never wrong in practice, and tells "Torvane" from "Corvane". */
export function isOneApart(short: string, long: string): boolean {
  if (long.length - short.length > 1 || short[0] !== long[0]) return false;
  let i = 0;
  while (i < short.length && short[i] === long[i]) i++;
  return short.slice(short.length === long.length ? i + 1 : i) === long.slice(i + 1);
}
