import { type ChannelAttribute, sayChannelValue } from '../rulebooks/index.js';
import type { ValueCheck } from './model.js';

/** What a value must be for types that are no text, as the end of a sentence. */
const wanted: Partial<Record<ChannelAttribute['type'], string>> = {
  number: 'a number',
  measure: 'a number with a unit',
  money: 'an amount in the market’s currency',
  date: 'a date',
  boolean: 'yes or no',
};

export const valueKind: ValueCheck = {
  meta: {
    id: 'value-kind',
    severity: 'blocker',
    describes: 'A value is text where the channel takes a number, a measure, an amount of money, a date, or yes or no.',
    fix: 'catalog',
    fault: 'is of another kind than the channel takes',
    say: ({ value = '', wanted: kind = '' }, label) => `${label} “${value}” is not ${kind}`,
  },
  compile({ type }) {
    const kind = wanted[type];
    if (kind === undefined) return undefined;
    const own = type === 'number' || type === 'boolean' ? type : 'object';
    return (value) => {
      const isKind = own === 'object' ? typeof value === 'object' && value.kind === type : typeof value === own;
      return isKind ? undefined : { value: sayChannelValue(value), wanted: kind };
    };
  },
  examples: {
    attribute: { type: 'measure' },
    pass: [{ kind: 'measure', amount: '12', unit: 'cm' }],
    fail: ['3', 'a lot', 12, { kind: 'date', day: '2026-01-01' }],
  },
};
