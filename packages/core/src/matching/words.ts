/** Words of titles, as titles are read and compared: folded, in the content languages and some beside them. */
import { foldText } from '../values/index.js';

/** Words of a title that may say which goods these are. */
export const titleWords = (title: string): string[] =>
  foldText(title)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length >= 3 && !/^\d/.test(word) && !idle.has(word));

/** Words that say nothing about which goods these are. */
const idle = new Set(['the', 'and', 'for', 'with', 'mit', 'und', 'fur', 'der', 'die', 'das', 'och', 'med', 'pcs']);

/** Words of how goods are sold; that two titles share them says nothing. */
export const packWords: ReadonlySet<string> = new Set(['set', 'new', 'neu', 'pack']);

export const letterSizes: Record<string, string> = {
  xxs: '2xs',
  xxl: '2xl',
  xxxl: '3xl',
  xxxxl: '4xl',
  small: 's',
  medium: 'm',
  large: 'l',
};

/** Words of everyday colours, by the colour's English name. */
const colourNames: Record<string, string[]> = {
  black: ['schwarz', 'schwarze', 'schwarzer', 'svart'],
  white: ['weiss', 'weiß', 'weisse', 'vit', 'vitt'],
  red: ['rot', 'rote', 'roter', 'rod', 'rott'],
  blue: ['blau', 'blaue', 'blauer', 'bla', 'blatt'],
  green: ['grun', 'grune', 'gron', 'gront'],
  yellow: ['gelb', 'gelbe', 'gul', 'gult'],
  orange: [],
  purple: ['lila', 'violett'],
  pink: ['rosa'],
  brown: ['braun', 'braune', 'brun', 'brunt'],
  grey: ['gray', 'grau', 'graue', 'gra', 'gratt'],
  silver: ['silber'],
  gold: ['guld'],
  beige: [],
  navy: ['marine', 'marinblau'],
  turquoise: ['turkis'],
};

/** The colour each of these words means, by its English name. */
export const colourWords: ReadonlyMap<string, string> = new Map(
  Object.entries(colourNames).flatMap(([name, words]) => [name, ...words].map((word) => [word, name])),
);

/** What people write where they have no number. */
export const placeholders = new Set([
  'na',
  'none',
  'unknown',
  'tbd',
  'tbc',
  'nil',
  'null',
  'notapplicable',
  'doesnotapply',
  'keine',
  'unbekannt',
  'saknas',
  '123',
  '1234',
  '12345',
  '123456',
  '1234567890',
  'test',
  'xxx',
]);
