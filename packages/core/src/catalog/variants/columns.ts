import { sameKey } from './meaning.js';
import type { Axis, AxisVariant } from './model.js';
import { optionOf } from './options.js';
import { readingOf } from './order.js';

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
    return {
      axis,
      held,
      same: held.map((value) => (value === undefined ? undefined : sameKey(value, axis.kind, reading))),
    };
  });
