import fc from 'fast-check';
import { expect, it } from 'vitest';
import { planFixes, rankCauses } from './index.js';

const sets = [
  { causes: [1], listings: 10 },
  { causes: [1, 2], listings: 5 },
  { causes: [3], listings: 4 },
  { causes: [2, 3], listings: 1 },
];

it('counts what a cause touches and what it alone unlocks', () => {
  expect(rankCauses(sets)).toEqual([
    { cause: 1, touched: 15, alone: 10 },
    { cause: 3, touched: 5, alone: 4 },
    { cause: 2, touched: 6, alone: 0 },
  ]);
});

it('plans fixes that free everything in the end', () => {
  expect(planFixes(sets, 10).at(-1)?.freed).toBe(20);
  expect(planFixes(sets, 2).map((step) => step.cause)).toEqual([1, 2]);
});

it('three missing attributes on 24 goods free 0, 0, then 24', () => {
  expect(planFixes([{ causes: [1, 2, 3], listings: 24 }], 3).map((step) => step.freed)).toEqual([0, 0, 24]);
});

it('never promises more than there is, and never less than a step before', () => {
  const list = fc.array(
    fc.record({
      causes: fc.uniqueArray(fc.integer({ min: 1, max: 8 }), { minLength: 1, maxLength: 4 }),
      listings: fc.integer({ min: 1, max: 50 }),
    }),
    { maxLength: 12 },
  );
  fc.assert(
    fc.property(list, (given) => {
      const steps = planFixes(given, 20);
      const total = given.reduce((sum, row) => sum + row.listings, 0);
      expect(steps.at(-1)?.freed ?? 0).toBe(total);
      for (let i = 1; i < steps.length; i++) expect(steps[i]!.freed).toBeGreaterThanOrEqual(steps[i - 1]!.freed);
    }),
  );
});

it('counts as one by one would, whatever the sets', () => {
  const list = fc.array(
    fc.record({
      causes: fc.uniqueArray(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 4 }),
      listings: fc.integer({ min: 1, max: 9 }),
    }),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(list, (given) => {
      const listings = given.flatMap(({ causes, listings: n }) => Array.from({ length: n }, () => causes));
      for (const { cause, touched, alone } of rankCauses(given)) {
        expect(touched).toBe(listings.filter((listing) => listing.includes(cause)).length);
        expect(alone).toBe(listings.filter((listing) => listing.length === 1 && listing[0] === cause).length);
      }
    }),
  );
});

it('a step of the plan frees exactly the listings whose causes are all done', () => {
  const steps = planFixes(sets, 10);
  steps.forEach(({ freed }, i) => {
    const done = new Set(steps.slice(0, i + 1).map((step) => step.cause));
    const clear = sets.filter(({ causes }) => causes.every((cause) => done.has(cause)));
    expect(freed).toBe(clear.reduce((sum, row) => sum + row.listings, 0));
  });
});
