import fc from 'fast-check';
import { expect, it } from 'vitest';
import { fillSources, sentenceCase, trimAtWord } from './index.js';

it('trims at a word, and never beyond the limit', () => {
  expect(trimAtWord('Hollin plant pot, 12 cm', 18)).toBe('Hollin plant pot');
  fc.assert(
    fc.property(
      fc.string({ unit: 'grapheme' }),
      fc.integer({ min: 1, max: 60 }),
      (text, length) => Array.from(trimAtWord(text, length)).length <= length,
    ),
  );
});

it('writes shouting small and leaves short codes', () => {
  expect(sentenceCase('HOLLIN POT LED UK 12 CM')).toBe('Hollin POT LED UK 12 CM');
});

it('knows what a rule reads', () => {
  expect(
    fillSources({
      kind: 'first',
      of: [
        { kind: 'copy', from: 'a' },
        { kind: 'compose', parts: [{ text: 'x' }, { from: 'b' }] },
      ],
    }),
  ).toEqual(['a', 'b']);
});
