/** Most text of the trade is ASCII, and most of that has single spaces: both are quick. */
// eslint-disable-next-line no-control-regex
const plain = /^[\x00-\x7f]*$/;
const spaced = /^\s|\s$|\s\s|[\t\n\v\f\r]/;

/**
 * Text as it is compared: decomposed, without accents, in small letters, inner white space single.
 * Characters above U+FFFF sort by code point in PostgreSQL (COLLATE "C", UTF-8) but by surrogate in JavaScript,
 * so keys replace them with U+FFFD: equal in both orders.
 */
export function foldText(text: string): string {
  if (plain.test(text)) return spaced.test(text) ? text.toLowerCase().replace(/\s+/g, ' ').trim() : text.toLowerCase();
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/[\u{10000}-\u{10FFFF}]/gu, '\uFFFD')
    .replace(/\s+/g, ' ')
    .trim();
}

/** Letters without their signs, small, those of other alphabets' kin written out: how words of several languages are compared. */
export const foldLetters = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replaceAll('ß', 'ss')
    .replaceAll('æ', 'ae')
    .replaceAll('œ', 'oe')
    .replaceAll('ø', 'o')
    .replaceAll('ł', 'l')
    .replaceAll('đ', 'd')
    .replaceAll('ı', 'i');

/** Small letters and digits only: how brands and part numbers are compared. */
export function foldCode(text: string): string {
  return foldText(text).replace(/[^\p{L}\p{N}]+/gu, '');
}

const longestKey = 200;

/** A folded key short enough for an index row. */
export function textKey(text: string): string {
  const folded = foldText(text);
  return folded.length > longestKey ? folded.slice(0, longestKey) : folded;
}
