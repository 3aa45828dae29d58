import { z } from 'zod';
import { parseMeasure, plainStyle, unitCode, units } from '../../values/index.js';
import { defineStep } from './model.js';

export const unitStep = defineStep({
  name: 'in-unit',
  title: 'Another unit',
  fields: [
    { name: 'unit', label: 'Unit', kind: 'text' },
    { name: 'whole', label: 'A whole number of it', kind: 'yes-no' },
  ],
  begin: () => ({ do: 'in-unit' as const, unit: '', whole: true }),
  label: ({ units: taken }) => `Write it in ${taken?.[0]}`,
  /** A whole number of the unit, unless it is said otherwise. */
  schema: z.strictObject({ do: z.literal('in-unit'), unit: z.string().max(20), whole: z.boolean().default(true) }),
  /** Exact: whether a channel is told whole numbers alone is for a person to say. */
  offer: ({ units: taken }) =>
    taken?.[0] === undefined ? undefined : { do: 'in-unit' as const, unit: taken[0], whole: false },
  say: ({ unit }) => `written in ${unit}`,
  compile:
    ({ unit, whole }) =>
    (text) =>
      inUnit(text, unit, whole),
  examples: [
    { step: { do: 'in-unit', unit: 'g', whole: true }, from: '1.2 kg', to: '1200 g' },
    { step: { do: 'in-unit', unit: 'W', whole: true }, from: '0.5 kW', to: '500 W' },
    { step: { do: 'in-unit', unit: 'g', whole: true }, from: 'heavy', to: 'heavy' },
  ],
});

/** "1.2 kg" in grams: "1200 g"; what is no measure, or of another dimension, stays as it is. */
export function inUnit(text: string, unit: string, whole: boolean): string {
  const wanted = units[unitCode(unit) ?? unit];
  if (!wanted) return text;
  const read = parseMeasure(text, plainStyle, wanted.dimension);
  if (!read.ok) return text;
  const amount = read.value.base / wanted.factor;
  const rounded = whole ? Math.round(amount) : Number(amount.toPrecision(9));
  return `${rounded} ${unit}`;
}
