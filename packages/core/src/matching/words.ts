/** Words of titles, as titles are read and compared: folded, in the content languages and some beside them. */
import { meaningsOf, plainLetters, shortened } from '../lexicon/index.js';
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

/** Colours that everybody tells apart; a title's "sand" or "mint" may be something else. */
const everyday = new Set(
  'black|white|red|blue|green|yellow|orange|purple|pink|brown|grey|silver|gold|beige|navy|turquoise'.split('|'),
);

/** The everyday colour that a word means, in any of the lexicon's languages, by its English name. */
export function colourOf(word: string): string | undefined {
  const plain = plainLetters(word);
  const found = meaningsOf(plain, shortened(plain)).find(
    ({ kind, name }) => kind === 'colour' && everyday.has(bare(name)),
  );
  return found && bare(found.name);
}

const bare = (name: string): string => name.replace(/^colour /u, '');

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
