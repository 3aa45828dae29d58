/** How long and how hard a text is to read. */
import { type Span, segmenter, wordsOf } from './model.js';

export interface Reading {
  words: number;
  sentences: number;
  /** At 200 words a minute. */
  seconds: number;
  /**
   * Läsbarhetsindex (Björnsson, 1968): words a sentence and the share of words over six letters, in hundredths. Below 40 is easy,
   * above 60 is hard, in any language with an alphabet; 0 where there are no words.
   */
  lix: number;
  /** The longest sentence. */
  longest: Span & { words: number };
}

const wordsAMinute = 200;
const longWord = 6;

export function readingOf(text: string, language: string): Reading {
  const sentences = [...segmenter(language, 'sentence').segment(text)]
    .map(({ segment, index }) => ({
      start: index,
      end: index + segment.trimEnd().length,
      words: wordsOf(segment, language),
    }))
    .filter(({ words }) => words.length > 0);
  const all = sentences.flatMap(({ words }) => words);
  const long = all.filter(({ word }) => [...word].length > longWord).length;
  const longest = sentences.reduce(
    (most, { start, end, words }) => (words.length > most.words ? { start, end, words: words.length } : most),
    { start: 0, end: 0, words: 0 },
  );
  return {
    words: all.length,
    sentences: sentences.length,
    seconds: Math.round((60 * all.length) / wordsAMinute),
    lix: all.length === 0 ? 0 : Math.round(all.length / sentences.length + (100 * long) / all.length),
    longest,
  };
}

/** From here on a sentence or a text is told of: few people read on. */
export const hardFrom = { lix: 60, words: 45, least: 30 };

/** What makes it hard, if anything: its longest sentence, or all of it. Texts of a few words are never hard. */
export function hardness(reading: Reading): 'sentence' | 'text' | undefined {
  if (reading.longest.words >= hardFrom.words) return 'sentence';
  return reading.words >= hardFrom.least && reading.lix >= hardFrom.lix ? 'text' : undefined;
}
