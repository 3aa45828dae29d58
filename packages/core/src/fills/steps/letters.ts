import { z } from 'zod';
import { defineStep } from './model.js';

const ways = [
  { value: 'small', label: 'all small' },
  { value: 'capitals', label: 'all capitals' },
  { value: 'first', label: 'the first a capital' },
] as const;
const wayNames = ways.map(({ value }) => value);

export const lettersStep = defineStep({
  name: 'letters',
  title: 'Small and capital letters',
  fields: [{ name: 'to', label: 'Letters', kind: 'one-of', choices: ways }],
  begin: () => ({ do: 'letters' as const, to: 'first' as const }),
  label: () => 'The first letter a capital',
  schema: z.strictObject({ do: z.literal('letters'), to: z.enum(wayNames) }),
  offer: () => undefined,
  say: ({ to }) => `letters ${ways.find(({ value }) => value === to)?.label ?? to}`,
  compile:
    ({ to }) =>
    (text) => {
      if (to === 'small') return text.toLowerCase();
      if (to === 'capitals') return text.toUpperCase();
      const [first = ''] = Array.from(text);
      return `${first.toUpperCase()}${text.slice(first.length)}`;
    },
  examples: [
    { step: { do: 'letters', to: 'small' }, from: 'Straße UND Öl', to: 'straße und öl' },
    { step: { do: 'letters', to: 'capitals' }, from: 'öl', to: 'ÖL' },
    { step: { do: 'letters', to: 'first' }, from: 'émail pot', to: 'Émail pot' },
  ],
});
