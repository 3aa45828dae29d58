import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type FillRule,
  type Fit,
  beginRule,
  asRendition,
  compileFit,
  fillRuleSchema,
  fillSources,
  isWholeRule,
  offeredFits,
  roundFigure,
  rules,
  sayFit,
  sayRule,
  sentenceCase,
  steps,
  trimAtWord,
  withTranslation,
} from './index.js';

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

describe('every rule', () => {
  const begun = (kind: string) =>
    rules.find((rule) => rule.kind === kind)?.begin({ from: 'title', before: undefined, value: 'x' }) as FillRule;
  const words = { source: (name: string) => name.toUpperCase(), condition: () => 'it holds' };

  it.each(rules.map(({ kind }) => kind))('“%s” begins as a rule that can be kept, once all is chosen', (kind) => {
    const rule = begun(kind);
    expect(rule.kind).toBe(kind);
    expect(fillRuleSchema.safeParse(rule).success).toBe(true);
    // A case has to say yet what it compares, a conversion from what.
    expect(isWholeRule(rule)).toBe(kind !== 'when' && kind !== 'convert');
    expect(sayRule(rule, words)).not.toBe('');
    expect(fillSources(rule).every((name) => name === 'title' || name === '')).toBe(true);
  });

  it('begins with what the one before it reads', () => {
    const copied: FillRule = { kind: 'copy', from: 'brand' };
    for (const kind of ['first', 'when'] as const)
      expect(fillSources(beginRule(kind, { from: 'title', before: copied, value: '' }))).toContain('brand');
  });

  it('takes one more pair of a translation wherever it has one, and says where none can be added', () => {
    const copied: FillRule = { kind: 'copy', from: 'colour' };
    const nested: FillRule = {
      kind: 'when',
      cases: [{ if: { attribute: 'stock', op: 'atLeast', value: '1' }, then: { kind: 'first', of: [copied] } }],
      otherwise: { kind: 'fixed', value: 'none' },
    };
    expect(withTranslation(copied, 'Moos', 'moss')).toEqual({
      kind: 'translate',
      from: 'colour',
      table: { Moos: 'moss' },
      otherwise: 'keep',
    });
    expect(JSON.stringify(withTranslation(nested, 'Moos', 'moss'))).toContain('{"Moos":"moss"}');
    expect(withTranslation({ kind: 'fixed', value: 'x' }, 'a', 'b')).toBeUndefined();
    expect(sayRule(nested, words)).toBe('when it holds, the first of: copies COLOUR; else fixed: none');
  });

  it('is refused beyond its bounds, with the place where', () => {
    const deep = (n: number): FillRule =>
      n === 0 ? { kind: 'copy', from: 'a' } : { kind: 'first', of: [deep(n - 1)] };
    expect(fillRuleSchema.safeParse(deep(3)).success).toBe(true);
    expect(fillRuleSchema.safeParse(deep(4)).error?.issues[0]?.message).toContain('4 deep at most');
    const wrong = fillRuleSchema.safeParse({ kind: 'first', of: [{ kind: 'fixed', value: '' }] });
    expect(wrong.error?.issues[0]?.path).toEqual(['of', 0, 'value']);
    expect(fillRuleSchema.safeParse({ kind: 'guess' }).success).toBe(false);
  });
});

describe('a picture asked for otherwise', () => {
  const picture = { address: 'http://x/media/a.png', isOurs: true as const, width: 1600, height: 900, format: 'png' };

  it('says what it measures then: square at its longest side, never blown up', () => {
    expect(asRendition(picture, { square: 'white', format: 'jpeg' })).toEqual({
      ...picture,
      address: 'http://x/media/a.png?square=white&format=jpeg',
      width: 1600,
      height: 1600,
      format: 'jpeg',
    });
    expect(asRendition(picture, { side: 800 })).toMatchObject({ width: 800, height: 450 });
    expect(asRendition(picture, { side: 2000 })).toMatchObject({ width: 1600, height: 900 });
    expect(asRendition(picture, { side: 2000, square: 'white' })).toMatchObject({ width: 2000, height: 2000 });
  });

  it('stays as it is where it stands elsewhere, or nothing is asked', () => {
    const { address, width, height, format } = picture;
    const elsewhere = { address, width, height, format };
    expect(asRendition(elsewhere, { square: 'white' })).toBe(elsewhere);
    expect(asRendition(picture, {})).toBe(picture);
  });

  it('is offered where the channel wants squares or another format, and only for pictures', () => {
    const named = (limits: Parameters<typeof offeredFits>[0]) => offeredFits(limits, 'picture').map(({ step }) => step);
    expect(named({ minRatio: 1, maxRatio: 1, formats: ['jpeg'] })).toEqual([
      { do: 'rendition', square: 'white', format: 'jpeg' },
    ]);
    expect(named({ minRatio: 1.2 })).toEqual([]);
    expect(named({ formats: ['avif'] })).toEqual([]);
    expect(offeredFits({ minRatio: 1 }).map(({ step }) => step.do)).not.toContain('rendition');
  });
});

it('rounds exactly, to either side, whatever stands behind the figure', () => {
  fc.assert(
    fc.property(fc.bigInt({ min: -(10n ** 20n), max: 10n ** 20n }), fc.integer({ min: 0, max: 6 }), (n, decimals) => {
      const written = `${n}.5 cm`;
      const up = roundFigure(written, 0, 'up');
      const down = roundFigure(written, 0, 'down');
      expect(BigInt(up.slice(0, -3)) - BigInt(down.slice(0, -3))).toBe(1n);
      expect(roundFigure(`${n} cm`, decimals, 'up')).toBe(`${n} cm`);
    }),
  );
});
