/** How many variants its family has. */
import type { ComputedKind } from '../model.js';

export const variants: ComputedKind = {
  kind: 'variants',
  takes: [0, 0],
  needs: 'all',
  objection: (_, { attribute }) =>
    attribute.type === 'number' ? undefined : `${attribute.label} is no number, and variants are counted`,
  work: (_, __, around) => ({
    value: around.variants,
    trace: around.variants === 1 ? 'a single, or the only variant' : `${around.variants} variants in the family`,
  }),
};
