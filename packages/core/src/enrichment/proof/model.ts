/** What proofreading finds in a text. */

/** A stretch of a text, in UTF-16 units, the end not included. */
export interface Span {
  start: number;
  end: number;
}

/** Words of a text with the places they stand at; `Intl.Segmenter` knows the languages. */
export function wordsOf(text: string, language: string): (Span & { word: string })[] {
  const words = [];
  for (const { segment, index, isWordLike } of segmenter(language, 'word').segment(text))
    if (isWordLike) words.push({ word: segment, start: index, end: index + segment.length });
  return words;
}

const segmenters = new Map<string, Intl.Segmenter>();

export function segmenter(language: string, granularity: 'word' | 'sentence'): Intl.Segmenter {
  const key = `${granularity} ${language}`;
  const known = segmenters.get(key);
  if (known) return known;
  const made = new Intl.Segmenter(language, { granularity });
  segmenters.set(key, made);
  return made;
}
