/** Words that no dictionary knows. */
import nspell from 'nspell';
import { foldText } from '../../values/index.js';
import { type Span, wordsOf } from './model.js';

/** A Hunspell dictionary: what its two files say. */
export interface SpellingFiles {
  aff: string;
  dic: string;
}

export interface Misspelt extends Span {
  word: string;
}

export interface Speller {
  /**
   * In the order of the text. Words a company knows, names, codes and what is made of known words are none. What `isHeading` is
   * no sentence: a capital at its beginning is a name's as often as not.
   */
  misspelt(text: string, isHeading?: boolean): Misspelt[];
  /** What it may have been meant to be, the likeliest first. */
  suggest(word: string): string[];
}

const mostSuggested = 5;
/** Letters that parts of a compound have at least; more in languages that seldom write compounds as one word. */
const leastPartOf = (language: string): number => (/^(?:en|fr|es|it|pt|pl)\b/u.test(language) ? 4 : 3);
/** Languages that write nouns with a capital. */
const hasCapitalNouns = (language: string): boolean => /^(?:de|lb)\b/u.test(language);

/**
 * @param language BCP 47, of the dictionary.
 * @param known Words a company says are right, however they are cased: brands, ranges, plants.
 */
export function compileSpeller(files: SpellingFiles, language: string, known: Iterable<string>): Speller {
  const dictionary = nspell(files.aff, files.dic);
  const own = new Set([...known].flatMap((words) => foldText(words).split(/[^\p{L}\p{M}\p{N}’']+/u)));
  const leastPart = leastPartOf(language);
  const isNamed = hasCapitalNouns(language) ? () => false : isName;
  const judged = new Map<string, boolean>();
  const stands = (word: string): boolean =>
    dictionary.correct(word) || dictionary.correct(word.toLowerCase()) || own.has(foldText(word));
  const isMade = (word: string): boolean => {
    const small = word.toLowerCase();
    for (let at = leastPart; at <= small.length - leastPart; at++) {
      if (!stands(small.slice(at)) && !stands(capital(small.slice(at)))) continue;
      const left = small.slice(0, at);
      if (
        [left, left.replace(/s$/u, '')].some(
          (part) => part.length >= leastPart && (stands(part) || stands(capital(part))),
        )
      )
        return true;
    }
    return false;
  };
  const isRight = (word: string): boolean => {
    const before = judged.get(word);
    if (before !== undefined) return before;
    const bare = word.replace(/[’']s?$/u, '').replaceAll('’', "'");
    const right = stands(word.replaceAll('’', "'")) || stands(bare) || (word.length >= 2 * leastPart && isMade(bare));
    judged.set(word, right);
    return right;
  };
  return {
    misspelt: (text, isHeading = false) =>
      wordsOf(text, language).filter(
        ({ word, start }) => isWord(word) && !isNamed(text, word, start, isHeading) && !isRight(word),
      ),
    suggest: (word) => dictionary.suggest(word).slice(0, mostSuggested),
  };
}

const capital = (word: string): string => word.slice(0, 1).toUpperCase() + word.slice(1);

/** Letters alone, three at least, and not all capitals: the rest are codes, units and initials. */
const isWord = (word: string): boolean => /^\p{L}[\p{L}\p{M}’']{2,}$/u.test(word) && word !== word.toUpperCase();

/** A capital in the middle of a sentence, or inside a word, is a name where nouns are small. */
function isName(text: string, word: string, start: number, isHeading: boolean): boolean {
  if (/\p{Ll}\p{Lu}/u.test(word)) return true;
  if (!/^\p{Lu}/u.test(word)) return false;
  if (isHeading) return true;
  const before = text.slice(0, start).trimEnd();
  return before !== '' && !/[.!?:•\n–-]$/u.test(before);
}
