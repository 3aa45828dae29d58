/** Words of names and titles: stems, compounds cut into their parts, and phrases that mean one thing. */
import type { Relations } from '../lexicon/relations.js';
import type { Language } from '../lexicon/languages.js';
import { foldLetters } from '../values/index.js';

/** A word by number; parts of a compound by theirs. */
export interface Word {
  id: number;
  /** How sure it is that the text says this word. */
  confidence: number;
  parts?: readonly [left: number, right: number];
}

/** A text as it is compared. */
export interface Text {
  words: readonly Word[];
  /** Runs of words that mean one thing of their own: its number, and the words they are made of. */
  phrases: readonly { id: number; of: readonly number[] }[];
}

const compoundFrom = 6;
/** What is longer is no word. */
const compoundUpTo = 80;
const tailFrom = 8;
const leastPart = 3;
const leastTail = 4;
/** Of parts of a compound, and of two words written as one on the other side. */
const partly = 0.8;
/** What joins two words into one in German and the Nordic languages. */
const joints = ['', 's', 'es', 'en', 'n', 'er', 'e'];
const longestPhrase = 3;

const isOfLength = ({ length }: string) => length >= compoundFrom && length <= compoundUpTo;

/** Reads texts of both sides; all of them are told to it first, so that compounds are cut where both parts are words. */
export class Reading {
  private readonly ids = new Map<string, number>();
  /** By number: how it was written, as it was met first before all other forms. */
  private readonly spelt: Set<string>[] = [];
  private readonly stems = new Map<string, string>();
  /** Stems on either side, and on the target's. */
  private readonly known = new Set<string>();
  private readonly theirs = new Set<string>();

  constructor(
    private readonly language: Language,
    private readonly relations: Relations | undefined,
    targets: readonly string[],
    own: readonly string[],
  ) {
    const runsOf = (texts: readonly string[]) => new Set(texts.flatMap((text) => this.runs(text)));
    const [ours, theirs] = [runsOf(own), runsOf(targets)];
    const tails = language.isJoining ? commonTails(ours, theirs) : [];
    for (const word of [...theirs, ...tails]) this.theirs.add(this.stem(word));
    for (const stem of this.theirs) this.known.add(stem);
    for (const word of ours) this.known.add(this.stem(word));
  }

  /** How many words and phrases have been met. */
  get count(): number {
    return this.spelt.length;
  }

  /** How a word was written where it was met first. */
  wordOf = (id: number): string => this.formsOf(id)[0] ?? '';

  /** All forms of a word that were met: “cooking” and “cook” are one word here, and two in a dictionary. */
  formsOf = (id: number): readonly string[] => [...(this.spelt[id] ?? [])];

  /** The number of a word in any form, where it was met. */
  numberOf = (word: string): number | undefined => this.ids.get(this.stem(word));

  read(text: string): Text {
    const runs = this.runs(text);
    const words = runs.map((word) => this.asWord(word));
    for (let i = 0; i + 1 < runs.length; i++) {
      const joined = `${runs[i] ?? ''}${runs[i + 1] ?? ''}`;
      if (this.known.has(this.stem(joined))) words.push({ id: this.number(joined), confidence: partly });
    }
    const phrases: { id: number; of: number[] }[] = [];
    for (let from = 0; this.relations && from < runs.length; from++)
      for (let length = 2; length <= longestPhrase && from + length <= runs.length; length++) {
        const of = runs.slice(from, from + length);
        // A dictionary may write as one what is two words here: “tool box”.
        const phrase = [of.join('_'), of.join('')].find((each) => (this.relations?.meanings(each).length ?? 0) > 0);
        if (phrase !== undefined)
          phrases.push({ id: this.number(phrase), of: words.slice(from, from + length).map(({ id }) => id) });
      }
    return { words, phrases };
  }

  private runs(text: string): string[] {
    return (
      foldLetters(text)
        .replace(/['’]s?(?![\p{L}])/gu, '')
        .match(/\p{L}{2,}/gu)
        ?.filter((word) => !this.language.idle.has(word)) ?? []
    );
  }

  private stem(word: string): string {
    let stem = this.stems.get(word);
    if (stem === undefined) {
      stem = this.language.stem(word) || word;
      this.stems.set(word, stem);
    }
    return stem;
  }

  private number(word: string): number {
    const stem = word.includes('_') ? word : this.stem(word);
    const known = this.ids.get(stem);
    const id = known ?? this.spelt.push(new Set()) - 1;
    const forms = this.spelt[id];
    if (forms && !forms.has(word)) for (const form of [word, ...this.apart(word)]) forms.add(form);
    if (known === undefined) this.ids.set(stem, id);
    return id;
  }

  /** How a dictionary writes what is written as one here: “wet suit”. */
  private apart(word: string): string[] {
    const { relations } = this;
    if (!relations || !isOfLength(word) || relations.meanings(word).length > 0) return [];
    for (let at = leastPart; at <= word.length - leastPart; at++) {
      const phrase = `${word.slice(0, at)}_${word.slice(at)}`;
      if (relations.meanings(phrase).length > 0) return [phrase];
    }
    return [];
  }

  private asWord(word: string): Word {
    const parts = this.cut(word);
    const id = this.number(word);
    return parts ? { id, confidence: 1, parts: [this.number(parts[0]), this.number(parts[1])] } : { id, confidence: 1 };
  }

  /** A compound of two known words, one of them theirs; else one that ends in a word of theirs. */
  private cut(word: string): [string, string] | undefined {
    if (!isOfLength(word)) return undefined;
    let best: { parts: [string, string]; rank: number } | undefined;
    for (let at = leastPart; at <= word.length - leastPart; at++) {
      const right = word.slice(at);
      const [isKnown, isTheirs] = [this.known.has(this.stem(right)), this.theirs.has(this.stem(right))];
      if (!isKnown) continue;
      for (const joint of joints) {
        const left = word.slice(0, at);
        if (!left.endsWith(joint) || left.length - joint.length < leastPart) continue;
        const bare = left.slice(0, left.length - joint.length);
        if (!this.known.has(this.stem(bare)) || !(isTheirs || this.theirs.has(this.stem(bare)))) continue;
        // Parts of like length are words; a long one with a crumb is chance.
        const rank = Math.min(bare.length, right.length);
        if (!best || rank > best.rank) best = { parts: [bare, right], rank };
      }
    }
    if (best) return best.parts;
    if (word.length < tailFrom) return undefined;
    for (let at = leastTail; at <= word.length - leastTail; at++) {
      const tail = word.slice(at);
      if (this.theirs.has(this.stem(tail))) return [word.slice(0, at), tail];
    }
    return undefined;
  }
}

/** Letters of an ending that may be a word, and words that must share it; of one on either side, letters left before it. */
const tails = { least: 5, words: 3, before: 4 };
const leastBefore = 3;

/**
 * Of compounds that are written as one, what several end in: “formen” of Backformen, Brotformen and Kuchenformen, though none is
 * called so alone; or one of ours and one of theirs, “besen” of Schneebesen and Handbesen.
 */
function commonTails(ours: ReadonlySet<string>, theirs: ReadonlySet<string>): string[] {
  const endsOf = (words: ReadonlySet<string>) => {
    const counts = new Map<string, { all: number; long: number }>();
    for (const word of words)
      for (let at = leastBefore; at <= word.length - tails.least; at++) {
        const seen = counts.get(word.slice(at)) ?? { all: 0, long: 0 };
        counts.set(word.slice(at), { all: seen.all + 1, long: seen.long + (at >= tails.before ? 1 : 0) });
      }
    return counts;
  };
  const [mine, others] = [endsOf(ours), endsOf(theirs)];
  const found = [...others].flatMap(([tail, { all, long }]) => {
    const own = mine.get(tail)?.long ?? 0;
    return all >= tails.words ? [[tail, all] as const] : long > 0 && own > 0 ? [[tail, long + own] as const] : [];
  });
  // Of “formen” and “ormen”, which the same words end in, the longer is the word.
  const longer = new Map<string, number>();
  for (const [tail, n] of found) longer.set(tail.slice(1), Math.max(longer.get(tail.slice(1)) ?? 0, n));
  return found.flatMap(([tail, n]) => ((longer.get(tail) ?? 0) < n ? [tail] : []));
}
