import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type FamilyCheck, rulesOf } from './model.js';

const settings = z.strictObject({
  /** The attribute that says which items belong together. */
  group: z.string(),
  most: z.int().positive(),
});
const rules = (rulebook: Pick<Rulebook, 'rules'>) => rulesOf(rulebook, 'family-size', settings);

/** Most variants of one family that the channel takes; undefined where it does not say. */
export const mostInFamily = (rulebook: Pick<Rulebook, 'rules'>): number | undefined => rules(rulebook)[0]?.most;

export const familySize: FamilyCheck = {
  meta: {
    id: 'family-size',
    severity: 'blocker',
    describes: 'A family has more variants than the channel takes in one.',
    fix: 'catalog',
    fault: 'has too many variants',
    say: ({ count = 0, most = 0 }) => `The family has ${count} variants; the channel takes ${most} in one`,
  },
  settings,
  names: (rulebook) => rules(rulebook).map(({ group }) => group),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    const { group, most } = rule;
    return (siblings) => {
      const count = siblings.filter(({ item }) => item[group] !== undefined).length;
      const fault = { attribute: group, params: { count, most } };
      return siblings.map(({ item }) => (count > most && item[group] !== undefined ? fault : undefined));
    };
  },
  examples: {
    rules: [{ check: 'family-size', group: 'kin', most: 2 }],
    pass: [[1, 2].map(() => ({ item: { kin: 'a' }, options: [] })), [1, 2, 3].map(() => ({ item: {}, options: [] }))],
    fail: [[1, 2, 3].map(() => ({ item: { kin: 'a' }, options: [] }))],
  },
};
