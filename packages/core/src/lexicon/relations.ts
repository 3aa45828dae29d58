/** Nouns and what they are kinds of: which words mean nearly the same, in the languages there is a lexicon of. */

/** One thing that a word may mean, or what that is a kind of. */
export interface Meaning {
  /** Number of what is meant; equal ones mean one thing. */
  id: number;
  /** Steps up to it: 0 is what the word means itself. */
  up: number;
  /** Which of the word’s senses it is of, the usual one 0. */
  rank: number;
}

export interface Relations {
  /** What a noun means in any of its senses, and up to `highest` steps what those are kinds of; plural forms are known. Empty where it is unknown. */
  meanings(word: string): readonly Meaning[];
  /** Words that its usual senses are told in: goggles “protect the eyes”. Each once; empty where it is unknown. */
  told(word: string): readonly string[];
  /** What is done with it, or by it: a sander sands. Verbs as a dictionary has them. */
  done(word: string): readonly string[];
}

/** Beyond these steps everything is a kind of the same. */
const highest = 3;

const known = new Map<string, Promise<Relations>>();

/** The relations of a language (BCP 47); undefined where there are none. Unpacked once, in some tenths of a second. */
export async function loadLexicon(language: string): Promise<Relations | undefined> {
  if (new Intl.Locale(language).language !== 'en') return undefined;
  const loading =
    known.get('en') ?? import('./wordnet/en.js').then(async ({ packed }) => unpack(await inflate(packed)));
  known.set('en', loading);
  return loading;
}

async function inflate(packed: string): Promise<string> {
  const bytes = Uint8Array.from(atob(packed), (letter) => letter.charCodeAt(0));
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream('deflate-raw'));
  return new Response(stream).text();
}

const parting = '\n=\n';

/** Of the senses of a word, those it is told by. */
const mostTold = 2;

/**
 * Four parts with a line “=” between them: a line for each meaning with those it is a kind of; a line for each word: letters
 * shared with the word before, the rest, its meanings; words that meanings are told in; a line
 * for each meaning with those, and with what is done.
 */
function unpack(text: string): Relations {
  const [tree = '', words = '', vocabulary = '', tellings = ''] = text.split(parting);
  const above = tree.split('\n').map(idsIn);
  const [said, toldIn] = [vocabulary.split('\n'), tellings.split('\n')];
  const senses = new Map<string, number[]>();
  let before = '';
  for (const line of words.split('\n')) {
    const [spelt = '', ...ids] = line.split(' ');
    before = before.slice(0, parseInt(spelt[0] ?? '0', 36)) + spelt.slice(1);
    senses.set(
      before,
      ids.map((id) => parseInt(id, 36)),
    );
  }
  const found = new Map<string, readonly Meaning[]>();
  // “Pants” are trousers and underwear: what the plural means, and what the singular does.
  const sensesOf = (word: string) => [...new Set([word, ...baseForms(word)].flatMap((form) => senses.get(form) ?? []))];
  const tellingOf = (word: string, which: 0 | 1) => [
    ...new Set(
      sensesOf(word)
        .slice(0, mostTold)
        .flatMap((id) => idsIn(toldIn[id]?.split(' ')[which] ?? '').flatMap((one) => said[one] ?? [])),
    ),
  ];
  return {
    meanings: (word) => {
      const held = found.get(word);
      if (held) return held;
      const all = sensesOf(word).flatMap((id, rank) => climb(id, rank, above));
      found.set(word, all);
      return all;
    },
    told: (word) => tellingOf(word, 0),
    done: (word) => tellingOf(word, 1),
  };
}

const idsIn = (line: string): number[] => (line === '' ? [] : line.split('.').map((id) => parseInt(id, 36)));

/** A meaning and what it is a kind of, the nearest first, each once. */
function climb(id: number, rank: number, above: readonly (readonly number[])[]): Meaning[] {
  const reached = new Map([[id, 0]]);
  let level = [id];
  for (let up = 1; up <= highest; up++) {
    level = level.flatMap((one) => above[one] ?? []).filter((one) => !reached.has(one));
    for (const one of level) reached.set(one, up);
  }
  return [...reached].map(([one, up]) => ({ id: one, up, rank }));
}

/** Singular forms an English plural may be of. */
const endings: readonly [plural: RegExp, singular: string][] = [
  [/ies$/, 'y'],
  [/ves$/, 'f'],
  [/ves$/, 'fe'],
  [/men$/, 'man'],
  [/(?<=s|x|z|ch|sh)es$/, ''],
  [/(?<=[^s])s$/, ''],
];
const baseForms = (word: string): string[] =>
  endings.flatMap(([plural, singular]) => (plural.test(word) ? [word.replace(plural, singular)] : []));
