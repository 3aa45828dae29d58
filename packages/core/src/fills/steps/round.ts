import Big from 'big.js';
import { z } from 'zod';
import { defineStep } from './model.js';

const mostDecimals = 6;

const ways = [
  { value: 'nearest', label: 'the nearest' },
  { value: 'up', label: 'the next above' },
  { value: 'down', label: 'the next below' },
] as const;
const wayNames = ways.map(({ value }) => value);
/** No figure of goods has more digits; what does is text. */
const figure = /^(-?\d{1,40}(?:\.\d{1,40})?)(?=$|[\s%])/;

export const roundStep = defineStep({
  name: 'round',
  title: 'Round',
  fields: [
    { name: 'decimals', label: 'Decimals', kind: 'number' },
    { name: 'to', label: 'To', kind: 'one-of', choices: ways },
  ],
  begin: () => ({ do: 'round' as const, decimals: 0, to: 'nearest' as const }),
  label: () => 'Round to a whole number',
  schema: z.strictObject({
    do: z.literal('round'),
    decimals: z.int().min(0).max(mostDecimals),
    to: z.enum(wayNames).default('nearest'),
  }),
  offer: () => undefined,
  say: ({ decimals, to }) =>
    `rounded to ${ways.find(({ value }) => value === to)?.label ?? to}${decimals === 0 ? ' whole number' : ` at ${decimals} decimals`}`,
  compile:
    ({ decimals, to }) =>
    (text) =>
      roundFigure(text, decimals, to),
  examples: [
    { step: { do: 'round', decimals: 1, to: 'nearest' }, from: '12.25 cm', to: '12.3 cm' },
    { step: { do: 'round', decimals: 0, to: 'down' }, from: '12.9', to: '12' },
    { step: { do: 'round', decimals: 0, to: 'up' }, from: '-1.5 °C', to: '-1 °C' },
    { step: { do: 'round', decimals: 0, to: 'nearest' }, from: 'about 12', to: 'about 12' },
  ],
});

/** The figure a text begins with, rounded; `nearest` half up, away from zero. A text that begins with none stays as it is. */
export function roundFigure(text: string, decimals: number, to: (typeof wayNames)[number]): string {
  const [, written] = figure.exec(text) ?? [];
  if (written === undefined) return text;
  const exact = new Big(written);
  if (to === 'nearest') return `${exact.round(decimals, Big.roundHalfUp).toFixed()}${text.slice(written.length)}`;
  const cut = exact.round(decimals, Big.roundDown);
  const step = new Big(10).pow(-decimals);
  const isBeyond = to === 'up' ? exact.gt(cut) : exact.lt(cut);
  const rounded = isBeyond ? (to === 'up' ? cut.plus(step) : cut.minus(step)) : cut;
  return `${rounded.toFixed()}${text.slice(written.length)}`;
}
