import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareRuns, guardRun } from './index.js';

const run = fc
  .dictionary(fc.stringMatching(/^[a-h]$/), fc.stringMatching(/^[12]$/))
  .map((row) => new Map(Object.entries(row)));

describe('what a run changes', () => {
  it('adds up: what was there, less what went, and what came, is what is there', () => {
    fc.assert(
      fc.property(run, run, (before, after) => {
        const difference = compareRuns(before, after);
        expect(difference.before - difference.removed + difference.added).toBe(difference.after);
        expect(difference.removed).toBe([...before.keys()].filter((key) => !after.has(key)).length);
        expect(difference.changed).toBe(
          [...after].filter(([key, hash]) => before.has(key) && before.get(key) !== hash).length,
        );
      }),
    );
  });
  it('is nothing where nothing differs', () => {
    fc.assert(
      fc.property(run, (row) => {
        expect(compareRuns(row, row)).toMatchObject({ added: 0, removed: 0, changed: 0 });
      }),
    );
  });
});

describe('the guard', () => {
  const difference = (before: number, after: number, removed: number) => ({
    before,
    after,
    removed,
    added: 0,
    changed: 0,
  });
  it('never lets an empty file out, the first one included', () => {
    expect(guardRun(difference(0, 0, 0), { maxRemoved: 1 })).toContain('empty file');
    expect(guardRun(difference(10, 0, 10), { maxRemoved: 1 })).toContain('empty file');
  });
  it('holds above its limit, and says how much would drop', () => {
    expect(guardRun(difference(100, 80, 20), { maxRemoved: 0.2 })).toBeUndefined();
    expect(guardRun(difference(100, 79, 21), { maxRemoved: 0.2 })).toBe(
      '21 of 100 items (21 %) would drop; the limit is 20 %',
    );
  });
  it('lets a first file out whatever its size', () => {
    expect(guardRun(difference(0, 5, 0), { maxRemoved: 0 })).toBeUndefined();
  });
});
