/** What category suggestions are asked, and what they answer. */
import type { Relations } from '../lexicon/relations.js';

/** A category of a channel. Names run from the root down. */
export interface TargetCategory {
  path: string;
  names: readonly string[];
  /** Other words for what it takes, parted by spaces. */
  words?: string | undefined;
  isLeaf: boolean;
}

/** One of our categories: names from the root down, in the language of the channel's tree where there are such. */
export interface OwnCategory {
  path: string;
  names: readonly string[];
  /** Titles of a dozen typical goods of it. */
  titles: readonly string[];
}

/** What a person has decided: the paths of both. */
export interface ChosenMap {
  own: string;
  target: string;
}

export interface CategoryQuestion {
  target: readonly TargetCategory[];
  /** All of ours together, mapped or not: neighbours tell about each other. */
  own: readonly OwnCategory[];
  chosen: readonly ChosenMap[];
  /** Of the channel's tree (BCP 47). */
  language: string;
  /** Only leaves are taken by the channel. */
  leafOnly: boolean;
  /** Suggestions a category. */
  most: number;
  lexicon?: Relations | undefined;
}

export interface CategorySuggestion {
  path: string;
  /** The probability that it is the right one. */
  p: number;
  /** In words, the weightiest first. */
  evidence: string[];
  /** Sure enough to be taken with others at once. */
  isSure: boolean;
}
