/** One text of many goods, composed of what each of them holds. */
import { z } from 'zod';
import { chosenSchema } from './bulk.js';
import { effectSchema } from './effect.js';
import { endpoint } from './endpoint.js';

export const partSchema = z.object({
  /** A slot of the goods, or `#options`; null: words alone. */
  of: z.string().max(250).nullable(),
  before: z.string().max(500),
  after: z.string().max(500),
});

export const wantedTextSchema = z.object({
  chosen: chosenSchema,
  attribute: z.string().max(200),
  language: z.string().max(40).nullable(),
  parts: z.array(partSchema).min(1, 'Say what it is made of').max(40),
});
export type WantedText = z.output<typeof wantedTextSchema>;

export const composedSchema = z.object({
  goods: z.number(),
  /** Those whose text would be another than it is. */
  changed: z.number(),
  /** Those of which nothing would be left to say: they keep what they have. */
  empty: z.number(),
  /** Goods that would have the same text as others of another family. */
  alike: z.number(),
  /** In characters. */
  longest: z.number(),
  examples: z.array(
    z.object({ id: z.number(), sku: z.string().nullable(), before: z.string().nullable(), after: z.string() }),
  ),
});
export type ComposedAnswer = z.infer<typeof composedSchema>;

export const compose = {
  tryOut: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/compose/try',
    summary: 'What a composed text would be for many goods, with examples of ten kinds; nothing is kept',
    body: wantedTextSchema,
    answer: composedSchema,
  }),
  save: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/compose',
    once: true,
    summary: 'Give many goods a text composed of what each holds, as one edit',
    body: wantedTextSchema,
    answer: effectSchema.extend({ goods: z.number() }),
  }),
};
