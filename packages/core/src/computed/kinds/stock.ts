/** How many pieces of it stand in our own warehouses; of a family, of all its variants. */
import type { ComputedKind } from '../model.js';

export const stock: ComputedKind = {
  kind: 'stock',
  takes: [0, 0],
  needs: 'all',
  objection: (_, { attribute }) =>
    attribute.type === 'number' ? undefined : `${attribute.label} is no number, and pieces are counted`,
  work: (_, __, { stock: pieces }) => ({ value: pieces, trace: 'counted in all our warehouses' }),
};
