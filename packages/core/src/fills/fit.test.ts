import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Fit, compileFit, fillSources, offeredFits, sayFit, sentenceCase, steps, trimAtWord } from './index.js';

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

describe('every step', () => {
  it.each(steps.map((step) => [step.name, step] as const))('“%s” does what its examples say', (_, step) => {
    expect(step.examples.length).toBeGreaterThan(0);
    for (const { step: given, from, to } of step.examples) {
      expect(step.compile(given)(from)).toBe(to);
      expect(step.say(given)).not.toBe('');
    }
  });

  it('is offered where its settings follow from what the channel takes', () => {
    const offered = (limits: Parameters<typeof offeredFits>[0]) => offeredFits(limits).map(({ label }) => label);
    expect(offered({})).toEqual(['Take markup out', 'Write words in capitals small']);
    expect(offered({ maxLength: 80 })).toContain('Trim at a word to 80 characters');
    expect(offered({ units: ['g'] })).toContain('Write it in g');
    for (const { step } of offeredFits({ maxLength: 5, units: ['kg'] })) expect(sayFit(step)).not.toBe('');
  });

  it('never breaks, whatever text it is given, and refuses settings that are none', () => {
    const given: Fit[] = steps.flatMap(({ examples }) => examples.map(({ step }) => step as Fit));
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 200 }), fc.constantFrom(...given), (text, step) => {
        expect(typeof compileFit(step)(text)).toBe('string');
      }),
    );
    expect(() => compileFit({ do: 'trim-at-word', length: -1 })).toThrow();
    expect(() => compileFit({ do: 'explode' } as unknown as Fit)).toThrow('no step “explode”');
  });
});
