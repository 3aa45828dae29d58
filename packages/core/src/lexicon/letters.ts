/** Words as those of several languages and habits of writing are compared. */
import { foldLetters } from '../values/index.js';

/** Without signs, and with umlauts written out read as those that are not: "Häldrup" and "Haeldrup" are one. */
export const plainLetters = (text: string): string => foldLetters(text).replace(/(?<![aeiouq])([aou])e(?!u)/gu, '$1');

const endings = [
  ...['ningarna', 'ernas', 'arnas', 'ornas', 'erna', 'arna', 'orna', 'ande', 'ende', 'ings'],
  ...['ens', 'ern', 'ers', 'est', 'ies', 'ing', 'isch', 'ar', 'er', 'or', 'en', 'em', 'es', 'et', 'na', 'tt'],
  ...['e', 's', 'n', 'a', 't'],
];

/** What a word may be a form of, the longest first; at least three letters stay. */
export const shortened = (word: string): string[] =>
  endings.flatMap((ending) =>
    word.length - ending.length >= 3 && word.endsWith(ending) ? [word.slice(0, -ending.length)] : [],
  );
