/** Options of a family: what people say of its axes and values, and of each variant's own value on an axis. */
import { axisNameSchema, optionPlanSchema, optionValueSchema } from '@velvet-shelf/core/catalog';
import { z } from 'zod';
import { effectSchema, triedEffectSchema } from './effect.js';
import { endpoint, idParam, rowNumber } from './endpoint.js';

/** Variants whose values on an axis are said at once. */
export const mostOptionValues = 5000;

export const optionChangeSchema = z.object({
  plan: optionPlanSchema,
  /** The plan it was made against. */
  was: optionPlanSchema,
  values: z
    .array(
      z.object({
        variant: rowNumber,
        axis: axisNameSchema,
        /** Null: it has none on this axis. */
        value: optionValueSchema.nullable(),
        /** What it had when this was said. */
        was: z.string().nullable(),
      }),
    )
    .max(mostOptionValues)
    .default([]),
});
export type OptionChange = z.output<typeof optionChangeSchema>;

export const triedOptionsSchema = triedEffectSchema.extend({
  /** Listings whose variants nobody is shown any more. */
  leaving: z.number(),
});
export type TriedOptions = z.infer<typeof triedOptionsSchema>;

export const options = {
  save: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/products/:id/options',
    once: true,
    summary: 'Say what a family’s options are: names, order, hidden values, surcharges, values of its variants',
    params: idParam,
    body: optionChangeSchema,
    answer: effectSchema,
  }),
  tryOut: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/products/:id/options/try',
    summary: 'What that would do to listings; nothing is kept',
    params: idParam,
    body: optionChangeSchema,
    answer: triedOptionsSchema,
  }),
};
