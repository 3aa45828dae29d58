/** Words of closed lists as texts decline and shade them, looked up by their stems. */
import { foldLetters } from '../values/index.js';
import type { SoughtChoice } from './model.js';
import { type Side, tokensOf, wordsOf } from './side.js';
import { words } from './words/index.js';

interface Spelling {
  words: string[];
  value: string;
  /** As the company writes it: one or two letters count in their own capitals only. */
  written: string;
  accented: boolean;
}

export interface Match {
  value: string;
  to: number;
}

/** Written as one word before a colour’s: how light, or of what. */
const shades =
  'hell|dunkel|matt|tief|pastell|neon|zart|ljus|mork|djup|lys|licht|donker|light|dark|deep|pale|smaragd|senf|senaps|wein|vin|himmel|himmels|gras|schnee|sno|creme|gradd|zitronen|citron|kirsch|korsbars|feuer|oliv|moos|moss|rost|tauben|is|eis|alt|blut|blod|stahl|stal|petrol|flaschen|flask|tannen|gran|kobolt|kobalt|marin|konigs|kungs'.split(
    '|',
  );
const endings = new Set(words.endings);
const longestEnding = Math.max(...words.endings.map(({ length }) => length));
const stop = new Set(['.', "'", '’', '-', '®', '™']);

/** With the umlauts written out as well. */
const spelt = (spelling: string): string[] =>
  /[äöü]/iu.test(spelling)
    ? [spelling, spelling.replace(/ä/giu, 'ae').replace(/ö/giu, 'oe').replace(/ü/giu, 'ue')]
    : [spelling];

/** What a word may be a form of, itself first. */
function stemsOf(word: string): string[] {
  const stems = [word];
  for (let cut = 1; cut <= longestEnding && cut < word.length; cut++) {
    const [stem, ending] = [word.slice(0, -cut), word.slice(-cut)];
    if (!endings.has(ending) || stem.length < 3) continue;
    if (stem.length > 3 || cut === 1 || /^(?:es|er|en|em|tt)$/u.test(ending)) stems.push(stem);
  }
  // “röd”, “rött”; “beige”, “beig”.
  if (word.length > 3 && word.endsWith('tt')) stems.push(`${word.slice(0, -2)}d`);
  if (word.length > 3) stems.push(`${word}e`);
  return stems;
}

/** Finds the longest word or phrase of a list that begins at a token. */
export function matcherOf({ spellings }: SoughtChoice, shaded: boolean): (side: Side, i: number) => Match | undefined {
  const byFirst = new Map<string, Spelling[]>();
  for (const [value, list] of Object.entries(spellings))
    for (const written of new Set([value, ...list]))
      for (const each of spelt(written)) {
        const parts = wordsOf(each);
        const [first] = parts;
        if (first === undefined) continue;
        const accented = tokensOf(each).some((token) => token.accented);
        byFirst.set(first, [...(byFirst.get(first) ?? []), { words: parts, value, written, accented }]);
      }
  for (const list of byFirst.values()) list.sort((a, b) => b.words.length - a.words.length);

  const matchOne = (side: Side, i: number, word: string): Match | undefined => {
    const token = side.tokens[i];
    if (!token) return undefined;
    const found = stemsOf(word)
      .flatMap((stem) => byFirst.get(stem) ?? [])
      .sort((a, b) => b.words.length - a.words.length);
    for (const { words: parts, value, written, accented } of found) {
      const to = endOf(side, i, parts);
      if (to === undefined || (token.accented && !accented)) continue;
      const said = side.text.slice(token.start, side.tokens[to - 1]?.end);
      const isInitials = /^\p{L}{1,3}$/u.test(written) && written.toUpperCase() === written;
      if (isInitials && said !== written && foldLetters(said).length < 3) continue;
      return { value, to };
    }
    return undefined;
  };

  return (side, i) => {
    const token = side.tokens[i];
    if (!token || token.kind === 'sign') return undefined;
    const plain = matchOne(side, i, token.fold);
    if (plain || !shaded || token.kind !== 'word') return plain;
    for (const shade of shades) {
      if (!token.fold.startsWith(shade)) continue;
      const rest = token.fold.slice(shade.length);
      const match =
        rest.length >= 3 ? (matchOne(side, i, rest) ?? matchOne(side, i, rest.replace(/^s/u, ''))) : undefined;
      if (match?.to === i + 1) return match;
    }
    return undefined;
  };
}

/** Where a phrase ends whose first word is here; each of the others as it is, or declined. */
function endOf(side: Side, i: number, parts: readonly string[]): number | undefined {
  let at = i + 1;
  for (const part of parts.slice(1)) {
    while (stop.has(side.tokens[at]?.fold ?? '')) at++;
    const here = side.tokens[at]?.fold;
    if (here === undefined || !stemsOf(here).includes(part)) return undefined;
    at++;
  }
  return at;
}
