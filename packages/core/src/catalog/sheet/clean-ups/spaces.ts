import type { CleanUp } from './model.js';

export const spaces: CleanUp = {
  key: 'spaces',
  label: 'Spaces: one between words, none around them',
  example: { before: '  Oak  bench,\u00a0oiled ', after: 'Oak bench, oiled' },
  clean: (text) =>
    text
      .replace(/[^\S\n]+/g, ' ')
      .replace(/ ?\n ?/g, '\n')
      .trim(),
};
