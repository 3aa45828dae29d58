import { groupBy } from '../../values/index.js';
import { columnsOf } from './columns.js';
import { type Axis, type AxisVariant, isBlank } from './model.js';
import { foldSpelling } from './text.js';

export interface SiblingFault<Id = string | number> {
  kind: 'duplicate-combination' | 'missing-value' | 'differing-axes' | 'same-value-spelt-differently';
  axis?: string;
  variants: Id[];
  values?: string[];
}

/**
 * What is wrong between the variants of one family. A combination is held twice only where all its values are there; values are
 * compared by what they mean (sizes, measures), else without regard to case, spaces, hyphens and Unicode form.
 */
export function siblingFaults<Id extends string | number>(
  axes: readonly Axis[],
  variants: readonly AxisVariant<Id>[],
): SiblingFault<Id>[] {
  const faults: SiblingFault<Id>[] = [];
  const columns = columnsOf(axes, variants);
  if (columns.length > 0) {
    const whole = [...variants.entries()].filter(([i]) => columns.every(({ same }) => same[i] !== undefined));
    const byCombination = groupBy(whole, ([i]) => columns.map(({ same }) => same[i]).join('\u0000'));
    for (const group of byCombination.values())
      if (group.length > 1)
        faults.push({
          kind: 'duplicate-combination',
          variants: group.map(([, { id }]) => id),
          values: columns.map(({ held }) => held[group[0]?.[0] ?? 0] ?? ''),
        });
  }
  for (const { axis, held, same } of columns) {
    const without = variants.filter((_, i) => held[i] === undefined);
    if (without.length > 0)
      faults.push({ kind: 'missing-value', axis: axis.key, variants: without.map(({ id }) => id) });
    const having = [...variants.entries()].filter(([i]) => same[i] !== undefined);
    for (const group of groupBy(having, ([i]) => same[i]).values()) {
      const spellings = [...new Set(group.map(([i]) => held[i] ?? ''))];
      if (spellings.length > 1)
        faults.push({
          kind: 'same-value-spelt-differently',
          axis: axis.key,
          variants: group.map(([, { id }]) => id),
          values: spellings,
        });
    }
  }
  const declared = new Set(axes.map(({ key }) => foldSpelling(key)));
  const strange = new Map<string, { name: string; holders: AxisVariant<Id>[] }>();
  for (const variant of variants)
    for (const [name, value] of Object.entries(variant.options)) {
      const folded = foldSpelling(name);
      if (isBlank(value) || declared.has(folded)) continue;
      const known = strange.get(folded) ?? { name, holders: [] };
      if (known.holders.at(-1) !== variant) known.holders.push(variant);
      strange.set(folded, known);
    }
  for (const { name, holders } of strange.values())
    if (holders.length < variants.length)
      faults.push({ kind: 'differing-axes', axis: name, variants: holders.map(({ id }) => id) });
  return faults;
}
