/** Fills: how one channel attribute gets its value. A rule gives it, steps fit it to the channel. */
import { z } from 'zod';
import { fillRuleSchema } from './rules/index.js';
import { fitSchema } from './steps/index.js';

const mostSteps = 20;

export const fillSchema = z.strictObject({ rule: fillRuleSchema, fit: z.array(fitSchema).max(mostSteps).default([]) });
export type Fill = z.infer<typeof fillSchema>;
