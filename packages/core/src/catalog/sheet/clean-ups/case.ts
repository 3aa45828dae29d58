import type { CleanUp } from './model.js';

export const upper: CleanUp = {
  key: 'upper',
  label: 'Capitals',
  example: { before: 'Straße 2xl', after: 'STRASSE 2XL' },
  clean: (text) => text.toUpperCase(),
};

export const lower: CleanUp = {
  key: 'lower',
  label: 'Small letters',
  example: { before: 'OAK Bench', after: 'oak bench' },
  clean: (text) => text.toLowerCase(),
};

/** A word of more than three letters, all of them capitals, shouts; a shorter one may be a code or a size. */
const shouts = /(?<![\p{L}\p{N}])\p{Lu}{4,}(?![\p{L}\p{N}])/gu;

export const sentence: CleanUp = {
  key: 'sentence',
  label: 'A capital at the beginning, none shouting',
  example: { before: 'WATERING can with LED', after: 'Watering can with LED' },
  clean: (text) => {
    const calm = text.replace(shouts, (word) => word.toLowerCase());
    return calm.replace(/^\s*\p{Ll}/u, (first) => first.toUpperCase());
  },
};
