/** Axes of a family as its variants have them, and the variants in a shop's order. */
import type { AttributeType, Role } from '../../values/index.js';
import { type Axis, type AxisKind, type AxisVariant, isBlank } from './model.js';
import { optionOf } from './options.js';
import { orderValues } from './order.js';
import { foldSpelling } from './text.js';

/** What an attribute of that name is, where the dictionary has one. */
export interface AxisAttribute {
  label: string;
  type: AttributeType;
  role: Role | null;
}

function kindOf({ type, role }: AxisAttribute): AxisKind {
  if (role === 'size' || role === 'colour') return role;
  return type === 'measure' || type === 'number' || type === 'choice' ? type : 'text';
}

/** The axes that most variants have, in the order they are met in; what few have is under another name or by mistake. */
export function axesOf(variants: readonly AxisVariant[], attributes: readonly AxisAttribute[]): Axis[] {
  const found = new Map<string, { key: string; holders: number }>();
  for (const { options } of variants)
    for (const [key, value] of Object.entries(options)) {
      const folded = foldSpelling(key);
      const known = found.get(folded) ?? { key, holders: 0 };
      if (!isBlank(value)) known.holders++;
      found.set(folded, known);
    }
  return [...found]
    .filter(([, { holders }]) => holders * 2 > variants.length)
    .map(([, { key }]) => ({ key, kind: axisKindOf(key, attributes) }));
}

/** What the values of an axis are, by the attribute of its name; text where there is none. */
export function axisKindOf(axis: string, attributes: readonly AxisAttribute[]): AxisKind {
  const folded = foldSpelling(axis);
  const found = attributes.find(({ label }) => foldSpelling(label) === folded);
  return found ? kindOf(found) : 'text';
}

/** Variants by their first axis, then the next; those without a value last. */
export function orderVariants<V extends AxisVariant>(
  axes: readonly Axis[],
  variants: readonly V[],
  language?: string,
): V[] {
  const places = axes.map(({ key, kind }) => {
    const values = variants.flatMap((variant) => optionOf(variant, key) ?? []);
    const ordered = orderValues([...new Set(values)], { kind, language });
    return new Map(ordered.map((value, i) => [value, i]));
  });
  const rank = (variant: V) =>
    axes.map(({ key }, i) => places[i]?.get(optionOf(variant, key) ?? '') ?? Number.MAX_SAFE_INTEGER);
  return variants
    .map((variant) => ({ variant, at: rank(variant) }))
    .sort((a, b) => a.at.map((place, i) => place - (b.at[i] ?? 0)).find((order) => order !== 0) ?? 0)
    .map(({ variant }) => variant);
}
