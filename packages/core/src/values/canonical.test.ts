import fc from 'fast-check';
import { expect, it } from 'vitest';
import { canonical, isSame } from './index.js';

/** Data as it is kept, some of it absent, and from few values, so that it is often alike. */
const data = fc.letrec((tie) => ({
  any: fc.oneof(
    { maxDepth: 3 },
    fc.constantFrom(null, undefined, 0, 1, '', '1', true),
    fc.array(tie('any'), { maxLength: 3 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c'), tie('any'), { maxKeys: 3 }),
  ),
})).any;

it('data is the same just where it is written alike', () => {
  fc.assert(
    fc.property(data, data, (a, b) => {
      expect(isSame(a, b)).toBe(canonical(a) === canonical(b));
      expect(isSame(a, structuredClone(a))).toBe(true);
    }),
    { numRuns: 2000, seed: 3 },
  );
});

it('whatever order keys have, and whether one is absent or undefined', () => {
  expect(isSame({ a: 1, b: [{ c: 'x' }] }, { b: [{ c: 'x', d: undefined }], a: 1 })).toBe(true);
  expect(isSame({ a: 1 }, { a: 1, b: null })).toBe(false);
  expect(isSame([1, 2], { 0: 1, 1: 2 })).toBe(false);
});
