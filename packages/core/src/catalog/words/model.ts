/** What columns of goods are called: by what each may be, words in one language. */
import { type Role, foldLetters } from '../../values/index.js';

/** What a column may be: an attribute by its role, a part of the row, or nothing that goods keep. */
export type Sense =
  | Role
  | 'key'
  | 'family'
  | 'options'
  | 'price'
  | 'salePrice'
  | 'saleFrom'
  | 'saleTo'
  | 'stock'
  | 'boughtFrom'
  | 'theirNumber'
  /** Several sizes in a cell: “12 x 20 cm”. */
  | 'sizes'
  | 'morePictures'
  /** Notes, order quantities, taxes, dates of the list itself … */
  | 'nothing';

export type Words = Partial<Record<Sense, string>>;

export interface Meaning {
  sense: Sense;
  /** First half of a tag (BCP 47). */
  language: string;
}

/** A header as its words are compared: without accents, small, its words parted by single spaces. */
export const foldHeader = (text: string): string =>
  foldLetters(
    text
      .normalize('NFKD')
      .replace(/\p{M}+/gu, '')
      .replace(/(\p{Ll}{2}|\d)(\p{Lu}\p{L}{2})/gu, '$1 $2'),
  )
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
