import { sayLabel } from '../values/index.js';
import type { CheckMeta } from './model.js';

/** Not compiled per value: the pipeline raises it where a required attribute gets none. */
export const required: { meta: CheckMeta } = {
  meta: {
    id: 'required',
    severity: 'blocker',
    describes: 'An attribute the channel requires has no value.',
    fix: 'catalog',
    say: (_params, label) => `No ${sayLabel(label)} given`,
  },
};

/** The same for recommended attributes: advice. */
export const recommended: { meta: CheckMeta } = {
  meta: {
    id: 'recommended',
    severity: 'advice',
    describes: 'An attribute the channel recommends has no value.',
    fix: 'catalog',
    say: (_params, label) => `No ${sayLabel(label)} given; the channel recommends it`,
  },
};

/** Raised where the channel needs a category and ours has none mapped to it. */
export const categoryMapped: { meta: CheckMeta } = {
  meta: {
    id: 'category-mapped',
    severity: 'blocker',
    describes: 'The channel needs a category of its tree for every item.',
    fix: 'catalog',
    say: ({ category }) => (category ? `No channel category for ${category}` : 'The product has no category'),
  },
};

/** Raised where our category is mapped to a branch of a tree that takes leaves only. */
export const categoryLeaf: { meta: CheckMeta } = {
  meta: {
    id: 'category-leaf',
    severity: 'blocker',
    describes: 'The channel takes the last level of its tree only.',
    fix: 'catalog',
    say: ({ path }) => `“${path}” has categories below it; the channel takes the last level only`,
  },
};
