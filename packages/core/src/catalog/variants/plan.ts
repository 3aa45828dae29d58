/**
 * What people say of a family's options over what its sources say: names and order of axes and values, values nobody is shown,
 * and what a value adds to the family's price. Plain data, kept with the family; what later sources say goes through it too.
 */
import Big from 'big.js';
import { z } from 'zod';
import { foldSpelling } from './text.js';

export type Option = [axis: string, value: string];

const mostAxes = 12;
export const mostAxisValues = 2000;

/** A name of an option, wherever one is said. */
export const axisNameSchema = z
  .string()
  .trim()
  .min(1, 'Say what it is called')
  .max(60)
  .regex(/^[^:|]*$/, 'Without : and |');
/** A value of an option. */
export const optionValueSchema = z
  .string()
  .trim()
  .min(1, 'Give the value a name')
  .max(200)
  .regex(/^[^|]*$/, 'Without |');
const amount = z
  .string()
  .trim()
  .regex(/^-?\d{1,9}(?:\.\d{1,4})?$/, 'An amount, as 2.50');

const plannedValueSchema = z.strictObject({
  value: optionValueSchema,
  /** Other spellings of it, the sources' own among them. */
  from: z.array(z.string().max(200)).max(200).default([]),
  /** Variants with it leave every assortment. */
  hidden: z.boolean().default(false),
  /** Added to the family's price, by currency (ISO 4217), in decimals. */
  surcharge: z.record(z.string().regex(/^[A-Z]{3}$/), amount).default({}),
});

const plannedAxisSchema = z
  .strictObject({
    name: axisNameSchema,
    /** Other names that sources have for it. */
    from: z.array(z.string().max(200)).max(200).default([]),
    /** Its variants are not told apart by it any more. */
    gone: z.boolean().default(false),
    /** Values stand in the order they are told here; else as a shop would sort them. */
    isOrdered: z.boolean().default(false),
    /** Those of which something is said. */
    values: z.array(plannedValueSchema).max(mostAxisValues).default([]),
  })
  .superRefine(({ values }, refine) => {
    for (const name of twice(values.flatMap(({ value, from }) => [value, ...from])))
      refine.addIssue({ code: 'custom', path: ['values'], message: `“${name}” stands there twice` });
  });

export const optionPlanSchema = z
  .strictObject({
    /** In the order they are shown; those of which nothing is said follow. */
    axes: z.array(plannedAxisSchema).max(mostAxes),
  })
  .superRefine(({ axes }, refine) => {
    for (const name of twice(axes.flatMap(({ name, from }) => [name, ...from])))
      refine.addIssue({ code: 'custom', path: ['axes'], message: `“${name}” stands there twice` });
  });
export type OptionPlan = z.output<typeof optionPlanSchema>;
export type PlannedAxis = OptionPlan['axes'][number];
export type PlannedValue = PlannedAxis['values'][number];

export const noPlan: OptionPlan = { axes: [] };

function twice(names: readonly string[]): string[] {
  const seen = new Set<string>();
  return names.filter((name) => {
    const folded = foldSpelling(name);
    if (seen.has(folded)) return true;
    seen.add(folded);
    return false;
  });
}

/** What the plan says of an axis, by any of its names. */
export const plannedAxis = ({ axes }: OptionPlan, axis: string): PlannedAxis | undefined =>
  axes.find(({ name, from }) => isNamed(name, from, axis));

/** … and of a value, in any of its spellings. */
export const plannedValue = (axis: PlannedAxis | undefined, value: string): PlannedValue | undefined =>
  axis?.values.find((planned) => isNamed(planned.value, planned.from, value));

const isNamed = (name: string, from: readonly string[], said: string) => {
  const folded = foldSpelling(said);
  return foldSpelling(name) === folded || from.some((other) => foldSpelling(other) === folded);
};

/**
 * A variant's options: as its sources say them, its own said by hand over that (null: none on this axis), told by the plan's
 * names and in its order of axes.
 */
export function optionsBy(
  plan: OptionPlan,
  said: readonly Option[],
  own: readonly (readonly [axis: string, value: string | null])[] = [],
): Option[] {
  if (plan.axes.length === 0 && own.length === 0) return [...said];
  const held = new Map<string, { name: string; value: string; planned: PlannedAxis | undefined }>();
  for (const [axis, value] of [...said, ...own]) {
    const planned = plannedAxis(plan, axis);
    const name = planned?.name ?? axis;
    const key = foldSpelling(name);
    if (value === null) held.delete(key);
    else held.set(key, { name, planned, value: plannedValue(planned, value)?.value ?? value });
  }
  const place = ({ planned }: { planned: PlannedAxis | undefined }) =>
    planned ? plan.axes.indexOf(planned) : plan.axes.length;
  return [...held.values()]
    .filter(({ planned }) => planned?.gone !== true)
    .sort((a, b) => place(a) - place(b))
    .map(({ name, value }) => [name, value]);
}

/** Whether nobody is to be shown a variant with these options. */
export const isHiddenBy = (plan: OptionPlan, options: readonly Option[]): boolean =>
  options.some(([axis, value]) => plannedValue(plannedAxis(plan, axis), value)?.hidden === true);

/** What these options add to the family's price, by currency, in decimals; currencies to which nothing is added are not there. */
export function surchargeBy(plan: OptionPlan, options: readonly Option[]): Record<string, string> {
  const sums = new Map<string, Big>();
  for (const [axis, value] of options)
    for (const [currency, added] of Object.entries(plannedValue(plannedAxis(plan, axis), value)?.surcharge ?? {}))
      sums.set(currency, (sums.get(currency) ?? Big(0)).plus(added));
  return Object.fromEntries([...sums].flatMap(([currency, sum]) => (sum.eq(0) ? [] : [[currency, sum.toFixed()]])));
}

/** Orders that were given by hand, by axis. */
export const ordersBy = ({ axes }: OptionPlan): Record<string, string[]> =>
  Object.fromEntries(
    axes.flatMap(({ name, isOrdered, values }) => (isOrdered ? [[name, values.map(({ value }) => value)]] : [])),
  );

/** What is another in a plan, as ends of a sentence: “Rust of glaze is Terracotta now”. */
export function planDifferences(before: OptionPlan, after: OptionPlan): string[] {
  const said: string[] = [];
  for (const axis of after.axes) {
    const was = before.axes.find(({ name, from }) =>
      [name, ...from].some((each) => isNamed(axis.name, axis.from, each)),
    );
    const named = was?.name ?? axis.from[0];
    if (named !== undefined && named !== axis.name) said.push(`${named} is ${axis.name} now`);
    if (axis.gone && !was?.gone) said.push(`${axis.name} is no option any more`);
    if (was?.gone && !axis.gone) said.push(`${axis.name} is an option again`);
    for (const value of axis.values) {
      const old = was?.values.find((each) =>
        [each.value, ...each.from].some((spelt) => isNamed(value.value, value.from, spelt)),
      );
      const first = old?.value ?? value.from[0];
      if (first !== undefined && first !== value.value) said.push(`${first} of ${axis.name} is ${value.value} now`);
      if (value.hidden !== (old?.hidden ?? false)) said.push(`${value.value} is ${value.hidden ? 'hidden' : 'shown'}`);
      for (const currency of new Set([...Object.keys(value.surcharge), ...Object.keys(old?.surcharge ?? {})]))
        if (value.surcharge[currency] !== old?.surcharge[currency])
          said.push(`${value.value} adds ${value.surcharge[currency] ?? 0} ${currency}`);
    }
    if (orderOf(axis) !== orderOf(was)) said.push(`the values of ${axis.name} stand in another order`);
  }
  return said;
}

const orderOf = (axis: PlannedAxis | undefined): string =>
  axis?.isOrdered ? JSON.stringify(axis.values.map(({ value }) => value)) : '';
