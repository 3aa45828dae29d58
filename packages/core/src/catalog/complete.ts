/** How complete a product is: the facts every channel builds on. */
const parts: readonly ((has: (slot: string) => boolean) => boolean)[] = [
  (has) => has('title'),
  (has) => has('description'),
  (has) => has('brand'),
  (has) => has('category'),
  (has) => has('gtin') || has('mpn'),
  (has) => has('pictures'),
  (has) => has('price'),
  (has) => has('weight'),
];

/** 0–100, of eight parts; `has` tells whether a fact has a value. */
export function completeness(has: (slot: string) => boolean): number {
  return Math.round((parts.filter((part) => part(has)).length / parts.length) * 100);
}
