import { sameKey } from './meaning.js';
import type { Axis, AxisVariant } from './model.js';
import { optionOf } from './options.js';
import { kindShown, readingOf } from './order.js';

export interface Column {
  axis: Axis;
  /** What each variant has on the axis, in their order; undefined for nothing. */
  held: readonly (string | undefined)[];
  /** The same as it is compared: spellings of one value are equal. A bare figure stays without a unit. */
  same: readonly (string | undefined)[];
}

export const columnsOf = (axes: readonly Axis[], variants: readonly AxisVariant[]): Column[] =>
  axes.map((axis) => {
    const held = variants.map((variant) => optionOf(variant, axis.key));
    const filled = held.filter((value) => value !== undefined);
    const reading = { ...readingOf(filled, axis), unit: undefined };
    // Texts that are all sizes, or all measures, are compared as such, whatever the axis is said to be.
    const kind = axis.kind === 'text' ? (kindShown(filled, reading) ?? axis.kind) : axis.kind;
    return {
      axis,
      held,
      same: held.map((value) => (value === undefined ? undefined : sameKey(value, kind, reading))),
    };
  });
