import type { Role } from '../values/index.js';

/** What every channel builds on, by role: what is asked for where no category says what it asks for. */
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

interface Filled {
  /** A fact, by its role, has a value. */
  role: (fact: Role | 'price') => boolean;
  /** An attribute, by its key, has one. */
  attribute: (key: string) => boolean;
}

/** How complete a product is, 0–100: of what its category requires, else of eight parts. */
export function completeness(has: Filled, required: readonly string[] = []): number {
  const filled =
    required.length > 0 ? required.map((key) => has.attribute(key)) : parts.map((part) => part.some(has.role));
  return Math.round((filled.filter(Boolean).length / filled.length) * 100);
}
