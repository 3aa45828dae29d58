import type { Variant } from '../catalog/index.js';
import type { Value } from '../values/index.js';

/** Effective value of an attribute on a variant, for conditions. */
export function variantLookup(
  home: string,
): (variant: Variant, attribute: string, language: string | undefined) => Value | undefined {
  return (variant, attribute, language) => {
    if (attribute === 'sku') return variant.sku;
    if (attribute === 'category') return variant.category;
    return variant.facts[attribute] ?? variant.texts[attribute]?.[language ?? home];
  };
}
