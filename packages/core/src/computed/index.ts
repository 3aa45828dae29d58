/** Values that follow from others: which kinds there are, whether a computation can be, and what comes of it. */
import { type Attribute, type Computation, units } from '../values/index.js';
import { added } from './kinds/added.js';
import { divided } from './kinds/divided.js';
import { highest } from './kinds/highest.js';
import { lowest } from './kinds/lowest.js';
import { multiplied } from './kinds/multiplied.js';
import { stock } from './kinds/stock.js';
import { subtracted } from './kinds/subtracted.js';
import { variants } from './kinds/variants.js';
import type { Around, ComputedKind, Input, Worked } from './model.js';

export type { Around, ComputedKind, Input, Worked };

/** In the order in which they are offered. */
export const computedKinds: readonly ComputedKind[] = [
  multiplied,
  divided,
  added,
  subtracted,
  lowest,
  highest,
  variants,
  stock,
];

const byKind = new Map(computedKinds.map((one) => [one.kind, one]));

/** The kind of this name; undefined where there is none. */
export const computedKind = (kind: string): ComputedKind | undefined => byKind.get(kind);

/** Why an attribute cannot be worked out so, as a sentence for people; undefined where it can. */
export function objectionTo(
  computed: Computation,
  attribute: Attribute,
  attributes: ReadonlyMap<string, Attribute>,
): string | undefined {
  const how = byKind.get(computed.kind);
  if (!how) return `There is no way “${computed.kind}” to work a value out`;
  const [least, most] = how.takes;
  if (computed.of.length < least)
    return least === 1 ? 'Choose what it follows from' : `Choose at least ${least} attributes it follows from`;
  if (computed.of.length > most) return `It follows from ${most} attributes at most`;
  const inputs: Attribute[] = [];
  for (const key of computed.of) {
    const input = attributes.get(key);
    if (!input) return `There is no attribute “${key}”`;
    if (input.many || input.perLanguage) return `${input.label} has several values: nothing follows from it`;
    inputs.push(input);
  }
  if (attribute.many || attribute.perLanguage) return `${attribute.label} has several values: none is worked out`;
  if (attribute.level === 'family') return 'It is worked out for each variant: have it entered on each variant';
  const { unit } = computed;
  if (attribute.type === 'measure' && units[unit ?? '']?.dimension !== attribute.dimension)
    return 'Choose the unit it is given in';
  const reason = how.objection(inputs, { attribute, unit });
  if (reason !== undefined) return reason;
  const circle = circleFrom(attribute.key, computed.of, attributes);
  return circle && `${circle} follows from ${attribute.label} itself`;
}

/** The attribute, of those it follows from, that follows from it in turn. */
function circleFrom(
  key: string,
  of: readonly string[],
  attributes: ReadonlyMap<string, Attribute>,
  seen = new Set<string>(),
): string | undefined {
  for (const each of of) {
    const input = attributes.get(each);
    if (!input) continue;
    if (input.key === key) return input.label;
    if (seen.has(input.key)) continue;
    seen.add(input.key);
    if (input.computed && circleFrom(key, input.computed.of, attributes, seen) !== undefined) return input.label;
  }
  return undefined;
}

interface Step {
  attribute: Attribute;
  inputs: readonly Attribute[];
  unit: string | undefined;
  how: ComputedKind;
}

/** What is worked out with these attributes, what others follow from first; what cannot be is left out. */
export function computedSteps(attributes: ReadonlyMap<string, Attribute>): readonly Step[] {
  const known = stepsOf.get(attributes);
  if (known) return known;
  const steps: Step[] = [];
  const done = new Set<string>();
  const add = (attribute: Attribute) => {
    const { computed } = attribute;
    if (!computed || done.has(attribute.key)) return;
    done.add(attribute.key);
    const how = byKind.get(computed.kind);
    if (!how || objectionTo(computed, attribute, attributes) !== undefined) return;
    const inputs = computed.of.flatMap((key) => attributes.get(key) ?? []);
    inputs.forEach(add);
    steps.push({ attribute, inputs, unit: computed.unit, how });
  };
  for (const attribute of attributes.values()) add(attribute);
  stepsOf.set(attributes, steps);
  return steps;
}
/** Found once for a dictionary: its attributes do not change under it. */
const stepsOf = new WeakMap<ReadonlyMap<string, Attribute>, readonly Step[]>();

/** Works one out; `read` answers what the product holds of an attribute. */
export function workOut(
  { attribute, inputs, unit, how }: Step,
  read: (attribute: Attribute) => Omit<Input, 'attribute'>,
  around: Around,
): Worked {
  return how.work(
    inputs.map((input) => ({ attribute: input, ...read(input) })),
    { attribute, unit },
    around,
  );
}
