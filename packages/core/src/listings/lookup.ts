import type { Variant } from '../catalog/index.js';
import { type Attribute, type Value, keyOf } from '../values/index.js';

/** Effective value of an attribute on a variant, for conditions. */
export function variantLookup(
  attributes: ReadonlyMap<string, Attribute>,
  home: string,
): (variant: Variant, attribute: string, language: string | undefined) => Value | undefined {
  const [sku, category] = [keyOf(attributes, 'sku'), keyOf(attributes, 'category')];
  return (variant, attribute, language) => {
    if (attribute === sku) return variant.sku;
    if (attribute === category) return variant.category;
    return variant.facts[attribute] ?? variant.texts[attribute]?.[language ?? home];
  };
}
