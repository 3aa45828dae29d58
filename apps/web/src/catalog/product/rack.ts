/** How a family stands on its rack: which axes go down and across, which values of the others one looks at. */
import type { ProductAnswer, Sibling } from '@velvet-shelf/contract';
import {
  axesOf,
  missingCombinations,
  noPlan,
  ordersBy,
  rackOf,
  siblingFaults,
  usedAxes,
} from '@velvet-shelf/core/catalog';
import { useMemo } from 'react';
import { useCompany } from '../../company/company';
import { type ProductAddress, useAt } from './address';

type Shelved = Omit<Sibling, 'options'> & { options: Record<string, string> };

export function useRack({ siblings, values, plan }: ProductAnswer, address: ProductAddress) {
  const [language] = useCompany().languages;
  const at = useAt(address.at);
  const { axes, lists, variants, faults, missing } = useMemo(() => {
    const orders = ordersBy(plan ?? noPlan);
    const all = siblings.map(({ options, ...rest }): Shelved => ({ ...rest, options: Object.fromEntries(options) }));
    const of = axesOf(all, values);
    return {
      axes: usedAxes(of, all, { language, lists: orders }),
      lists: orders,
      variants: all,
      faults: siblingFaults(of, all),
      missing: missingCombinations(of, all, { most: 1 }).count,
    };
  }, [siblings, values, language, plan]);
  const { down, across, further } = useMemo(() => {
    const keys = axes.map(({ key }) => key);
    // The axis with fewer values stands across, where nobody has said which.
    const [fewest] = [...axes].sort((a, b) => a.values.length - b.values.length);
    const chosen = keys.find((key) => key === address.across);
    const columns = chosen ?? (axes.length > 1 ? fewest?.key : undefined);
    const rows = keys.find((key) => key === address.down && key !== columns) ?? keys.find((key) => key !== columns);
    return {
      down: rows ?? '',
      across: columns,
      further: axes
        .filter(({ key }) => key !== rows && key !== columns)
        .map(({ key, values: of }) => ({ key, values: of, at: at[key] ?? of[0] ?? '' })),
    };
  }, [axes, address.down, address.across, at]);
  const rack = useMemo(() => {
    const looked = Object.fromEntries(further.map((axis) => [axis.key, axis.at]));
    return rackOf(axes, variants, { down, across, at: looked, language, lists });
  }, [axes, variants, down, across, further, language, lists]);
  return { axes, down, across, further, rack, faults, missing };
}
