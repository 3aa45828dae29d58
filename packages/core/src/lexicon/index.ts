/** Words of several languages that mean one thing: where goods, categories and values are told of in different ones. */
import { exclusive, manner } from './concepts.js';
import { plainLetters } from './letters.js';
import { things } from './things.js';

export { plainLetters, shortened } from './letters.js';

/** Of what kind a word is where goods of one are no goods of another. */
export type ExclusiveKind = keyof typeof exclusive;

export interface Concept {
  /** Its first English word. */
  name: string;
  kind: ExclusiveKind | undefined;
}

interface Lexicon {
  /** By word as `plainLetters` writes it: what it may mean. */
  concepts: ReadonlyMap<string, readonly Concept[]>;
  /** By word: the languages it is a word of. */
  languages: ReadonlyMap<string, ReadonlySet<string>>;
  /** Meanings of two words. */
  phrases: ReadonlyMap<string, Concept>;
}

function compile(): Lexicon {
  const concepts = new Map<string, Concept[]>();
  const phrases = new Map<string, Concept>();
  const languages = new Map<string, Set<string>>();
  const read = (lines: string, kind: ExclusiveKind | undefined) => {
    for (const line of lines.split('\n')) {
      const parts = line.split('=').map((part) => part.split(',').map((word) => plainLetters(word.trim())));
      parts.forEach((list, i) => {
        for (const word of list) languages.set(word, (languages.get(word) ?? new Set()).add(columns[i] ?? ''));
      });
      const words = parts.flat();
      const name = line.split(/[=,]/u)[0]?.trim() ?? '';
      if (name === '') continue;
      const concept: Concept = { name: kind === undefined ? name : `${kind} ${name}`, kind };
      for (const word of new Set(words))
        if (word.includes(' ')) phrases.set(word, concept);
        else {
          const known = concepts.get(word);
          if (known) known.push(concept);
          else concepts.set(word, [concept]);
        }
    }
  };
  for (const [kind, lines] of Object.entries(exclusive)) read(lines, kind as ExclusiveKind);
  read(manner, undefined);
  read(things, undefined);
  return { concepts, languages, phrases };
}

/** Of the lists, in their order. */
const columns = ['en', 'de', 'sv'];

let compiled: Lexicon | undefined;
const lexicon = (): Lexicon => (compiled ??= compile());

/** What a word may mean, in any of the languages; a declined or plural form is looked up by what it is a form of. */
export function meaningsOf(word: string, stems: readonly string[]): readonly Concept[] {
  const { concepts } = lexicon();
  const known = concepts.get(word);
  if (known) return known;
  for (const stem of stems) {
    const found = concepts.get(stem);
    if (found) return found;
  }
  return [];
}

/** What two words mean together: "cast iron". */
export const meaningOfTwo = (first: string, second: string): Concept | undefined =>
  lexicon().phrases.get(`${first} ${second}`);

/** Languages (BCP 47, the language alone) that have the word, as `plainLetters` writes it; none of one that is not listed. */
export const languagesOfWord = (word: string): ReadonlySet<string> => lexicon().languages.get(word) ?? nowhere;
const nowhere: ReadonlySet<string> = new Set();
