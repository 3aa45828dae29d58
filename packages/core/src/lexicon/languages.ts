/** How words of a language are cut to what they have in common, and which of them say nothing. */
import * as daStem from '@orama/stemmers/danish';
import * as nlStem from '@orama/stemmers/dutch';
import * as enStem from '@orama/stemmers/english';
import * as fiStem from '@orama/stemmers/finnish';
import * as frStem from '@orama/stemmers/french';
import * as deStem from '@orama/stemmers/german';
import * as itStem from '@orama/stemmers/italian';
import * as nbStem from '@orama/stemmers/norwegian';
import * as ptStem from '@orama/stemmers/portuguese';
import * as esStem from '@orama/stemmers/spanish';
import * as svStem from '@orama/stemmers/swedish';
import { stopwords as da } from '@orama/stopwords/danish';
import { stopwords as nl } from '@orama/stopwords/dutch';
import { stopwords as en } from '@orama/stopwords/english';
import { stopwords as fi } from '@orama/stopwords/finnish';
import { stopwords as fr } from '@orama/stopwords/french';
import { stopwords as de } from '@orama/stopwords/german';
import { stopwords as it } from '@orama/stopwords/italian';
import { stopwords as nb } from '@orama/stopwords/norwegian';
import { stopwords as pt } from '@orama/stopwords/portuguese';
import { stopwords as es } from '@orama/stopwords/spanish';
import { stopwords as sv } from '@orama/stopwords/swedish';
import { foldLetters } from '../values/index.js';

export interface Language {
  stem: (word: string) => string;
  /** Folded. */
  idle: ReadonlySet<string>;
  /** Writes words that belong together as one. */
  isJoining: boolean;
}

/** Said of any goods, in any shop. */
const anything = ['other', 'others', 'misc', 'various', 'new', 'sonstige', 'ovrigt', 'autres', 'andere'];

const language = (
  { stemmer }: { stemmer: (word: string) => string },
  idle: readonly string[],
  isJoining = false,
): Language => ({
  stem: stemmer,
  idle: new Set([...idle, ...anything].map(foldLetters)),
  isJoining,
});

const languages: Readonly<Record<string, Language>> = {
  en: language(enStem, en),
  de: language(deStem, de, true),
  sv: language(svStem, sv, true),
  da: language(daStem, da, true),
  nb: language(nbStem, nb, true),
  nn: language(nbStem, nb, true),
  no: language(nbStem, nb, true),
  nl: language(nlStem, nl, true),
  fr: language(frStem, fr),
  es: language(esStem, es),
  it: language(itStem, it),
  pt: language(ptStem, pt),
  fi: language(fiStem, fi, true),
};

/** Of a language nothing is known of, words are taken as they are. */
const unknown: Language = { stem: (word) => word, idle: new Set(anything), isJoining: false };

export const languageOf = (tag: string): Language => languages[new Intl.Locale(tag).language] ?? unknown;
