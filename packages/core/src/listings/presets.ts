/** Which presets of a place are applied to a variant: by hand, or by their condition. */
import type { Family, Variant } from '../catalog/index.js';
import { compileCondition, conditionAttributes } from '../conditions/index.js';
import { comparables, variantLookup, withUnknown } from './lookup.js';
import type { PlaceSetup } from './place.js';

export interface CompiledPreset {
  id: number;
  applies(family: Pick<Family, 'id'>, variant: Variant): boolean;
}

/** In the order in which they are asked. */
export function compilePresets({ presets = [], dictionary, language }: PlaceSetup): CompiledPreset[] {
  const known = comparables(dictionary);
  const lookup = variantLookup(dictionary, language);
  return presets.map(({ id, condition, hand }) => {
    const holds = condition
      ? compileCondition(condition, withUnknown(known, conditionAttributes(condition)), lookup)
      : () => false;
    return { id, applies: (family, variant) => hand.get(variant.id) ?? hand.get(family.id) ?? holds(variant) };
  });
}
