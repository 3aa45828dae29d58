import fc from 'fast-check';
import { expect, it } from 'vitest';
import { compileFit, fillSources, sentenceCase, trimAtWord } from './index.js';

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

it('fits step by step: markup off, words replaced', () => {
  expect(compileFit({ do: 'plain-text' })('<p>One</p><ul><li>two</li></ul>')).toBe('One\n\n- two');
  expect(compileFit({ do: 'replace', find: 'pot', with: 'planter' })('pot by pot')).toBe('planter by planter');
  expect(compileFit({ do: 'trim-at-word', length: 9 })('Hollin plant pot')).toBe('Hollin');
  expect(compileFit({ do: 'sentence-case' })('HOLLIN pot')).toBe('Hollin pot');
});

it('leaves what fits as it is, and does the same twice as once', () => {
  const text = fc.string({ unit: 'grapheme', maxLength: 80 });
  fc.assert(
    fc.property(text, (text) => {
      expect(trimAtWord(text, 200)).toBe(text);
      expect(sentenceCase(sentenceCase(text))).toBe(sentenceCase(text));
    }),
  );
});
