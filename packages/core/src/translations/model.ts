/** What it takes to suggest which value of a channel’s list one of ours is. */
import type { Language } from '../lexicon/languages.js';
import type { Relations } from '../lexicon/relations.js';
import type { Hues } from './hues.js';

/** One of our values: as it is written, and what else it is called, in whatever language. */
export interface OwnWord {
  word: string;
  others: readonly string[];
}

export interface Around {
  /** Of the channel’s list. */
  language: Language;
  relations: Relations | undefined;
  /** Undefined where nobody speaks of colours. */
  hues: Hues | undefined;
}

export interface Alike {
  /** 0 to 100: of as many suggestions with this score so many are right. */
  score: number;
  /** In words. */
  why: string;
}

/** One way in which a value is like one of ours: a file in `likenesses/`. */
export interface Likeness {
  kind: string;
  /** Undefined where it is not like it in this way. */
  rate(own: OwnWord, value: string, around: Around): Alike | undefined;
}

export interface SuggestedValue {
  value: string;
  score: number;
  /** The weightiest first. */
  evidence: string[];
}
