import type { Variant } from '../catalog/index.js';
import { type Attribute, type Value, keyOf, withEntries } from '../values/index.js';

const stockFact: Attribute = {
  key: 'stock',
  label: 'Stock',
  type: 'number',
  many: false,
  perLanguage: false,
  level: 'variant',
  group: '',
};

/** All that conditions of a place can compare: attributes, and the stock beside them. */
export const comparables = (dictionary: ReadonlyMap<string, Attribute>): ReadonlyMap<string, Attribute> =>
  withEntries(dictionary, [[stockFact.key, stockFact]]);

/** Effective value of an attribute on a variant, or its stock, for conditions. */
export function variantLookup(
  attributes: ReadonlyMap<string, Attribute>,
  home: string,
): (variant: Variant, attribute: string, language: string | undefined) => Value | undefined {
  const [sku, category] = [keyOf(attributes, 'sku'), keyOf(attributes, 'category')];
  return (variant, attribute, language) => {
    if (attribute === stockFact.key) return Math.max(0, variant.stock);
    if (attribute === sku) return variant.sku;
    if (attribute === category) return variant.category;
    return variant.facts[attribute] ?? variant.texts[attribute]?.[language ?? home];
  };
}

/** A rulebook may name attributes this company does not keep: they are empty everywhere. */
export function withUnknown(
  dictionary: ReadonlyMap<string, Attribute>,
  keys: readonly string[],
): ReadonlyMap<string, Attribute> {
  const unknown = keys.filter((key) => !dictionary.has(key));
  if (unknown.length === 0) return dictionary;
  const stub = { type: 'text', many: false, perLanguage: false, level: 'variant', group: '' } as const;
  return withEntries(
    dictionary,
    unknown.map((key) => [key, { ...stub, key, label: key }]),
  );
}
