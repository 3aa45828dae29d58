/** Which of our axes would tell variants apart on a channel that knows none of them: counted over the families it touches. */
import type { Family, Variant } from '../catalog/index.js';
import { isAxisIn } from '../checks/index.js';
import { type ChannelAttribute, sayChannelValue } from '../rulebooks/index.js';
import { foldText } from '../values/index.js';
import { compileMap } from './mapped.js';
import type { PlaceSetup } from './place.js';
import { compileSource } from './sources.js';

/** A fill that copies a source of ours into an axis of the channel. */
export interface AxisSource {
  /** The channel's attribute. */
  axis: string;
  axisLabel: string;
  source: string;
  sourceLabel: string;
  /** Variants it gives a value, and those whose value none of their siblings has. */
  filled: number;
  apart: number;
}

/**
 * Tries every source that our families have as an axis, and all options together, on every axis of the channel; those that
 * tell most variants apart first. Where the axis takes a closed list, just values on it count; goods count just where their
 * category knows the axis.
 */
export function axisSources(
  families: readonly Family[],
  touched: ReadonlySet<number>,
  axes: readonly ChannelAttribute[],
  setup: PlaceSetup,
): AxisSource[] {
  const mapped = compileMap(setup);
  const names = new Set(families.flatMap(({ variants }) => variants.flatMap(({ options }) => options.map(axisName))));
  const own = [...setup.dictionary.values()].filter(
    ({ key, label }) => names.has(foldText(key)) || names.has(foldText(label)),
  );
  return axes
    .flatMap((axis) =>
      ['options', ...own.map(({ key }) => key)].flatMap((name): AxisSource[] => {
        const source = compileSource(name, setup);
        if (!source) return [];
        const isAxis = new Map<string | undefined, boolean>();
        const counts = (variant: Variant): boolean => {
          const category = mapped(variant).target;
          const known = isAxis.get(category) ?? isAxisIn(setup.rulebook, category, axis.key);
          isAxis.set(category, known);
          return known;
        };
        const allowed = axis.limits.values && new Set(axis.limits.values.map(foldText));
        const read = (family: Family, variant: Variant) => {
          const value = source.read({ variant, family, today: '' });
          const text = value === undefined ? undefined : foldText(sayChannelValue(value));
          return text !== undefined && (!allowed || allowed.has(text)) ? text : undefined;
        };
        let [filled, apart] = [0, 0];
        for (const family of families) {
          const values = family.variants.map((variant) => read(family, variant));
          family.variants.forEach((variant, i) => {
            if (!touched.has(variant.id) || values[i] === undefined || !counts(variant)) return;
            filled++;
            if (values.every((other, j) => j === i || other !== values[i])) apart++;
          });
        }
        const { key, label } = axis;
        return filled > 0
          ? [{ axis: key, axisLabel: label, source: name, sourceLabel: source.label, filled, apart }]
          : [];
      }),
    )
    .sort((a, b) => b.apart - a.apart || b.filled - a.filled);
}

const axisName = ([axis]: readonly [string, string]) => foldText(axis);
