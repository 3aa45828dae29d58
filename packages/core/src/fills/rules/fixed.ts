import { z } from 'zod';
import { defineRule, longestText } from './model.js';

export interface FixedRule {
  kind: 'fixed';
  value: string;
}

export const fixed = defineRule<FixedRule>({
  kind: 'fixed',
  label: 'One fixed value',
  schema: () => z.strictObject({ kind: z.literal('fixed'), value: z.string().min(1).max(longestText) }),
  reads: () => [],
  compile: ({ value }) => ({
    value: () => value,
    blame: () => ({ at: 'fill' }),
    origin: () => ({ at: 'fill' }),
    trace: () => [{ at: 'fill', words: 'A fixed value', value }],
  }),
  say: ({ value }) => `fixed: ${value}`,
  begin: ({ value }) => ({ kind: 'fixed', value }),
  isWhole: ({ value }) => value !== '',
  carry: ({ value }, taking) => {
    const theirs = taking.value(value);
    if (theirs !== undefined) return { kind: 'fixed', value: theirs };
    taking.leave(`“${value}”, which is not on its list`);
    return undefined;
  },
});
