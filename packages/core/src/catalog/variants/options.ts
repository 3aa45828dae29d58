import { type AxisVariant, isBlank } from './model.js';
import { foldSpelling } from './text.js';

/** What a variant has on an axis, whatever the spelling of the axis; undefined for nothing. */
export function optionOf({ options }: AxisVariant, axis: string): string | undefined {
  const exact = Object.hasOwn(options, axis) ? options[axis] : undefined;
  if (!isBlank(exact)) return exact;
  const folded = foldSpelling(axis);
  for (const [name, value] of Object.entries(options))
    if (name !== axis && !isBlank(value) && foldSpelling(name) === folded) return value;
  return undefined;
}
