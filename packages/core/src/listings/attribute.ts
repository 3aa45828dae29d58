/** An attribute of a channel as it is asked for in one category: its fill, its type, and the checks that judge it. */
import type { Variant } from '../catalog/index.js';
import { type ChannelValue, type CompiledCheck, type Item, compileValueChecks } from '../checks/index.js';
import { type CompiledFill, noFill } from '../fills/index.js';
import type { ChannelAttribute } from '../rulebooks/index.js';
import { listOf } from '../values/index.js';
import { fillsFor } from './asked.js';
import { compileFill } from './fills.js';
import type { Mapped } from './mapped.js';
import type { PlaceSetup, PlacedFill } from './place.js';
import type { CompiledPreset } from './presets.js';
import { compileRequiredWhen } from './required-when.js';
import type { View } from './sources.js';
import { typing } from './typed.js';

export interface CompiledAttribute {
  attribute: ChannelAttribute;
  /** What gives a variant its value. */
  giving(view: View): Given;
  /** Fills that are for a variant, the one that gives its value first. */
  fitting(view: View): PlacedFill[];
  /** The value as the attribute's type has it. */
  typed(value: ChannelValue): ChannelValue;
  checks: CompiledCheck[];
  requiredWhen: ((item: Item) => boolean) | undefined;
}

/** A compiled fill, with where it stands. */
export interface Given {
  placed: PlacedFill | undefined;
  fill: CompiledFill<View>;
}

export function compileAttribute(
  attribute: ChannelAttribute,
  category: string | undefined,
  setup: PlaceSetup,
  { mapped, presets }: { mapped: (variant: Variant) => Mapped; presets: readonly CompiledPreset[] },
): CompiledAttribute {
  const general = fillsFor(setup, attribute.key, category);
  const [placed] = general;
  const otherwise: Given = {
    placed,
    fill:
      attribute.type === 'category'
        ? mappedCategory(attribute.key, setup, mapped)
        : placed
          ? compileFill(placed.fill, setup)
          : noFill,
  };
  const bundled = presets.flatMap(({ id, applies }) => {
    const fills = fillsFor(setup, attribute.key, category, id);
    const [first] = fills;
    return first ? [{ applies, fills, given: { placed: first, fill: compileFill(first.fill, setup) } }] : [];
  });
  return {
    attribute,
    giving:
      bundled.length === 0
        ? () => otherwise
        : ({ family, variant }) => bundled.find(({ applies }) => applies(family, variant))?.given ?? otherwise,
    fitting: ({ family, variant }) => [
      ...bundled.flatMap(({ applies, fills }) => (applies(family, variant) ? fills : [])),
      ...general,
    ],
    typed: typing(attribute, setup.currency),
    checks: compileValueChecks(attribute, setup.rulebook),
    requiredWhen: compileRequiredWhen(attribute, setup.rulebook),
  };
}

/** The channel category itself, or the further one, for channels that want it among the values. */
function mappedCategory(
  key: string,
  { dictionary, rulebook }: PlaceSetup,
  mapped: (variant: Variant) => Mapped,
): CompiledFill<View> {
  const own = listOf(dictionary, 'category');
  const side = key === rulebook.secondCategory ? 'second' : 'target';
  return {
    value: ({ variant }) => mapped(variant)[side],
    blame: () => ({ at: 'fill' }),
    origin: () => ({ at: 'fill' }),
    trace: ({ variant }) => {
      const name = variant.category === undefined ? '(none)' : own.say(variant.category);
      return [{ at: 'fill', words: `Mapped from our category ${name}` }];
    },
  };
}
