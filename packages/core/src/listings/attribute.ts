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
import { compileRequiredWhen } from './required-when.js';
import type { View } from './sources.js';
import { typing } from './typed.js';

export interface CompiledAttribute {
  attribute: ChannelAttribute;
  placed: PlacedFill | undefined;
  fill: CompiledFill<View>;
  /** The value as the attribute's type has it. */
  typed(value: ChannelValue): ChannelValue;
  checks: CompiledCheck[];
  requiredWhen: ((item: Item) => boolean) | undefined;
}

export function compileAttribute(
  attribute: ChannelAttribute,
  category: string | undefined,
  setup: PlaceSetup,
  mapped: (variant: Variant) => Mapped,
): CompiledAttribute {
  const [placed] = fillsFor(setup, attribute.key, category);
  return {
    attribute,
    placed,
    fill:
      attribute.type === 'category'
        ? mappedCategory(attribute.key, setup, mapped)
        : placed
          ? compileFill(placed.fill, setup)
          : noFill,
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
