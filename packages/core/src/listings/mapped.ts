/** The channel's categories of goods: as our category is mapped, or elsewhere where a condition splits it. */
import type { Variant } from '../catalog/index.js';
import { compileCondition, conditionAttributes } from '../conditions/index.js';
import { comparables, variantLookup, withUnknown } from './lookup.js';
import type { CategoryTarget, PlaceSetup } from './place.js';

export interface Mapped {
  /** Undefined where our category is not mapped, or to what the rulebook does not have. */
  target: string | undefined;
  second: string | undefined;
  /** Which split holds, from 0; undefined where none does. */
  split?: number | undefined;
}

const nowhere: Mapped = { target: undefined, second: undefined };

/** Compiles a category map: from a variant to where it stands. */
export function compileMap({ categoryMap, rulebook, dictionary, language }: PlaceSetup): (variant: Variant) => Mapped {
  const comparable = comparables(dictionary);
  const lookup = variantLookup(dictionary, language);
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const inTree = (path: string | undefined) => (path !== undefined && known.has(path) ? path : undefined);
  const stands = ({ target, second }: Pick<CategoryTarget, 'target' | 'second'>): Mapped => ({
    target: inTree(target),
    second: rulebook.secondCategory === undefined ? undefined : inTree(second),
  });
  const compiled = new Map(
    [...categoryMap].map(([own, { splits = [], ...rest }]) => [
      own,
      {
        rest: stands(rest),
        splits: splits.map(({ condition, ...to }, split) => ({
          holds: compileCondition(condition, withUnknown(comparable, conditionAttributes(condition)), lookup),
          to: { ...stands(to), split },
        })),
      },
    ]),
  );
  return (variant) => {
    const map = variant.category === undefined ? undefined : compiled.get(variant.category);
    return map ? (map.splits.find(({ holds }) => holds(variant))?.to ?? map.rest) : nowhere;
  };
}
