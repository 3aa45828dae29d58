import type { Role } from '../values/index.js';

/** How complete a product is: the facts every channel builds on. */
const parts: readonly (Role | 'price')[][] = [
  ['title'],
  ['description'],
  ['brand'],
  ['category'],
  ['gtin', 'mpn'],
  ['pictures'],
  ['price'],
  ['weight'],
];

/** 0–100, of eight parts; `has` tells whether a fact, by its role, has a value. */
export function completeness(has: (fact: Role | 'price') => boolean): number {
  return Math.round((parts.filter((part) => part.some(has)).length / parts.length) * 100);
}
