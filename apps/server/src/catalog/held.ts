/** What goods hold, slot by slot, as their claims make it. */
import { type Slots, claimsOn, resolveUnit } from '@velvet-shelf/core/claims';
import type { Executor } from '../db/client.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import { notFound } from '../http/problem.js';
import type { ProductRow } from './draft.js';
import { type UnitSources, loadUnits } from './resolve.js';
import { unitsOf } from './units.js';

export interface Held {
  product: ProductRow;
  slots: Slots;
}

/** Of every product of these units. */
export async function heldIn(tx: Executor, units: readonly number[], dictionary: Dictionary): Promise<Held[]> {
  return heldOf([...(await loadUnits(tx, units, dictionary)).values()], dictionary);
}

function heldOf(units: readonly UnitSources[], dictionary: Dictionary, slots?: ReadonlySet<string>): Held[] {
  const { attributes, policies } = dictionary;
  return units.flatMap(({ products, claims }) => {
    const { family, variants } = resolveUnit(
      slots ? claimsOn(slots, claims, attributes) : claims,
      attributes,
      policies,
    );
    const byId = new Map(variants.map((variant) => [variant.id, variant.slots]));
    return products.map((product) => ({
      product,
      slots: product.kind === 'family' ? family : (byId.get(product.id) ?? new Map()),
    }));
  });
}

/** Of each of these products; throws for one there is none of. */
export const heldBy = async (
  tx: Executor,
  products: readonly number[],
  dictionary: Dictionary,
): Promise<(id: number) => Held> => (await heldWithin(tx, products, dictionary)).held;

/** The same, with the units they are of as they were loaded; what they hold in some slots alone, where those are named. */
export async function heldWithin(
  tx: Executor,
  products: readonly number[],
  dictionary: Dictionary,
  slots?: ReadonlySet<string>,
): Promise<{ held: (id: number) => Held; units: Map<number, UnitSources> }> {
  const units = await loadUnits(tx, await unitsOf(tx, products), dictionary);
  const byId = new Map(heldOf([...units.values()], dictionary, slots).map((one) => [one.product.id, one]));
  return {
    units,
    held: (id) => {
      const found = byId.get(id);
      if (!found) throw notFound(`product ${id} any more`);
      return found;
    },
  };
}
