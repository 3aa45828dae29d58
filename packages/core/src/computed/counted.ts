/** What is counted around goods, and follows from none of their attributes: a whole number. */
import type { Around, ComputedKind } from './model.js';

/** `what` is counted, as `read` finds it, with how it came about in words. */
export const counted = (
  kind: string,
  what: string,
  read: (around: Around) => { value: number; trace: string },
): ComputedKind => ({
  kind,
  takes: [0, 0],
  needs: 'all',
  objection: (_, { attribute }) =>
    attribute.type === 'number' ? undefined : `${attribute.label} is no number, and ${what} are counted`,
  work: (_, __, around) => read(around),
});
