/** Types, dimensions and roles of attributes as people read them. */
import type { ListValueAnswer } from '@velvet-shelf/contract';
import type { Attribute, AttributeType, Role } from '@velvet-shelf/core/values';

export const typeWords: Record<AttributeType, string> = {
  text: 'text',
  richText: 'text with markup',
  number: 'number',
  measure: 'measure',
  money: 'amount of money',
  boolean: 'yes or no',
  date: 'date',
  choice: 'one of a list',
  media: 'picture',
  link: 'address of a page',
  file: 'file',
};

/** What an attribute is where nobody says it. */
export const computedWords: Readonly<Record<string, string>> = {
  multiplied: 'the product of others',
  divided: 'one divided by another',
  added: 'the sum of others',
  subtracted: 'one less others',
  lowest: 'the lowest that anybody says',
  highest: 'the highest that anybody says',
  variants: 'the number of variants in the family',
  stock: 'the number of pieces in our warehouses',
};

/** “purchasePrice” → “purchase price”; what is an abbreviation stays one. */
export const roleWords = (role: Role): string =>
  ['sku', 'gtin', 'mpn'].includes(role) ? role.toUpperCase() : spaced(role);

export const spaced = (key: string): string => key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** “measure of length, several”. */
export const sayType = ({
  type,
  dimension,
  many,
}: {
  type: AttributeType;
  dimension: Attribute['dimension'] | null;
  many: boolean;
}): string =>
  [dimension ? `${typeWords[type]} of ${spaced(dimension)}` : typeWords[type], ...(many ? ['several'] : [])].join(', ');

/** Its names in other languages, and its spellings. */
export const sayOthers = ({ names, spellings, path }: ListValueAnswer): string =>
  [...Object.values(names).filter((name) => name !== path.at(-1)), ...spellings].join(', ');
