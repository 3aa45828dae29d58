/**
 * Text as it is compared: decomposed, without accents, in small letters, inner white space single.
 * Characters above U+FFFF sort by code point in PostgreSQL (COLLATE "C", UTF-8) but by surrogate in JavaScript,
 * so keys replace them with U+FFFD: equal in both orders.
 */
export function foldText(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/[\u{10000}-\u{10FFFF}]/gu, '\uFFFD')
    .replace(/\s+/g, ' ')
    .trim();
}

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
