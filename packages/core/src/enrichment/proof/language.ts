/** Texts that are not in the language they are kept under. */
import { francAll } from 'franc-min';
import { iso6393To1 } from 'iso-639-3';
import { languagesOfWord, plainLetters } from '../../lexicon/index.js';
import { foldLetters } from '../../values/index.js';

export interface WrongLanguage {
  /** BCP 47, the language alone: "de". */
  language: string;
  /** 0–1: how much likelier it is than the one it is kept under. */
  ahead: number;
}

/** Letters from which a text says anything about its language, and from which it may be any there is. */
const least = 24;
const telling = 120;
/** Share of the likeliest, by its letters alone, at which the expected one is still believed. */
const believed = 0.8;

/** Small words that stand in most sentences of a language, and seldom in those of its neighbours. */
const smallWords: Record<string, string> = {
  en: 'the and with for of from is are this your you not or it by as be that has our',
  de: 'und der die das mit fur ist ein eine den dem des aus auf nicht von im zum zur auch wird oder sich bei',
  sv: 'och som med for att ar ett den det av till pa inte fran eller kan har din ditt utan vid',
  da: 'og som med til at er et den det af pa ikke fra eller kan har din uden ved ogsa',
  nb: 'og som med til a er et den det av pa ikke fra eller kan har din uten ved ogsa',
  nl: 'en de het een van met voor is niet uit op aan te bij ook wordt deze zijn dat',
  fr: 'et le la les des une un avec pour est dans sur de du en au aux ce cette vous votre',
  es: 'y el la los las una un con para es en de del por su que al se',
  it: 'e il la lo gli le una un con per di del della da in che non si alla',
  pl: 'i w z na do jest nie oraz dla od przez to sie jak ze',
  fi: 'ja on ei se tai kun sen joka myos voi',
  pt: 'e o a os as uma um com para de do da em que nao por se ao',
};
const sets = new Map(Object.entries(smallWords).map(([language, words]) => [language, new Set(words.split(' '))]));

/** Letters that only some languages have. */
const letters: [RegExp, readonly string[]][] = [
  [/ß/u, ['de']],
  [/ü/u, ['de', 'tr', 'hu', 'et']],
  [/å/u, ['sv', 'da', 'nb']],
  [/[æø]/u, ['da', 'nb']],
  [/[äö]/u, ['de', 'sv', 'fi', 'et']],
  [/[ąęłńśźż]/u, ['pl']],
  [/ñ/u, ['es']],
  [/[ãõ]/u, ['pt']],
  [/[àâçèêëîïôùû]/u, ['fr', 'it', 'pt', 'nl']],
];

/** How much one word says for each language: a small word, a word of the trade, a letter. */
function votesOf(word: string): ReadonlyMap<string, number> {
  const votes = new Map<string, number>();
  const add = (language: string, n: number) => votes.set(language, (votes.get(language) ?? 0) + n);
  const [small, folded] = [foldLetters(word), plainLetters(word)];
  for (const [language, set] of sets) if (set.has(small)) add(language, 1);
  const known = languagesOfWord(folded);
  if (known.size < 3) for (const language of known) add(language, 1);
  for (const [pattern, languages] of letters)
    if (pattern.test(word)) for (const language of languages) add(language, 1);
  return votes;
}

const primary = (tag: string): string => tag.split('-')[0]?.toLowerCase() ?? '';
/** Codes of two letters that are one language's forms. */
const sameAs: Record<string, string> = { no: 'nb', nn: 'nb' };
/** The language of a tag (BCP 47), whatever its region, as it is told apart here. */
export const plainTag = (tag: string): string => sameAs[primary(tag)] ?? primary(tag);

/**
 * Undefined where the text is in the language expected, or too short to tell. `kept` are the languages a company keeps texts in:
 * a short text is only ever said to be in one of them.
 */
export function wrongLanguage(text: string, expected: string, kept: readonly string[]): WrongLanguage | undefined {
  const words =
    text
      .toLowerCase()
      .normalize('NFC')
      .match(/\p{L}+/gu) ?? [];
  const count = words.reduce((sum, { length }) => sum + length, 0);
  if (count < least) return undefined;
  const own = plainTag(expected);
  const isLong = count >= telling;
  const others = new Set(kept.map(plainTag));
  const votes = new Map<string, number>();
  for (const word of words)
    for (const [language, n] of votesOf(word)) votes.set(language, (votes.get(language) ?? 0) + n);
  const votesFor = (language: string) => votes.get(language) ?? 0;
  const scores = francAll(text, { minLength: 10 }).flatMap(([code, score]): [string, number][] => {
    const language = iso6393To1[code] ?? (code === 'nob' ? 'nb' : undefined);
    return language === undefined ? [] : [[plainTag(language), score]];
  });
  const scoreOf = (language: string) => scores.find(([each]) => each === language)?.[1] ?? 0;
  const [first] = scores.filter(([language]) => language !== own && (isLong || others.has(language)));
  const [voted] = [...votes]
    .filter(([language]) => language !== own && others.has(language))
    .sort((a, b) => b[1] - a[1]);
  for (const language of new Set([first?.[0], voted?.[0]])) {
    if (language === undefined) continue;
    const [theirs, ours] = [votesFor(language), votesFor(own)];
    const share = scoreOf(language) === 0 ? 1 : scoreOf(own) / scoreOf(language);
    // Words and letters must say the same, unless one of them says it loudly.
    const saidByBoth = theirs >= 2 && theirs > 2 * ours && share < 1;
    const saidByWords = theirs >= 3 && theirs >= 4 * ours;
    const saidByLetters = isLong && share <= believed && ours === 0;
    if (saidByBoth || saidByWords || saidByLetters)
      return { language, ahead: Number(Math.max(0, 1 - share).toFixed(2)) };
  }
  return undefined;
}
