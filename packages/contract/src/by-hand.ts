/** Goods that somebody makes by hand: a single one, or a family with its options. */
import { axisNameSchema } from '@velvet-shelf/core/catalog';
import { z } from 'zod';
import { endpoint, idParam, rowNumber } from './endpoint.js';

/** As many variants as a family is laid out to at once. */
export const mostByHand = 500;

const figure = z.string().trim().max(40).default('');

const said = z.object({
  attribute: z.string().max(200),
  /** As one would type it. */
  text: z.string().trim().min(1).max(50_000),
});

export const byHandSchema = z.object({
  /** Number of the family they are added to; what is not said of them is as the sibling next to each has it. */
  family: rowNumber.optional(),
  /** Said of each of them, texts in the company's own language. */
  shared: z.array(said).max(300),
  /** Names of its option axes; none where it is a single one. */
  axes: z.array(axisNameSchema).max(6, 'Six options at most'),
  variants: z
    .array(
      z.object({
        sku: z.string().trim().min(1, 'Give its SKU').max(200),
        /** One for each axis, in their order. */
        options: z.array(
          z
            .string()
            .trim()
            .min(1, 'Give its value')
            .max(200)
            .regex(/^[^|]*$/, 'Without |'),
        ),
        gtin: figure,
        /** In the company's own currency. */
        price: figure,
        /** Pieces. */
        stock: figure,
      }),
    )
    .min(1)
    .max(mostByHand, `${mostByHand} variants at most at once`),
});
export type ByHand = z.output<typeof byHandSchema>;

const removalSchema = z.object({
  /** Variants that go, singles among them. */
  variants: z.number(),
  /** Who speaks for them, best ranked first, with how many records. */
  sources: z.array(z.object({ supplier: z.string(), records: z.number() })),
  /** Values that people set. */
  edits: z.number(),
  /** Pieces in stock, all warehouses together. */
  stock: z.number(),
  /** Places whose channel has listings of them. */
  known: z.array(z.object({ place: z.string(), listings: z.number() })),
});
export type RemovalAnswer = z.output<typeof removalSchema>;

export const byHand = {
  goesWith: endpoint({
    role: 'editor',
    method: 'GET',
    path: '/api/products/:id/removal',
    summary: 'What goes with a product if it is taken away',
    params: idParam,
    answer: removalSchema,
  }),
  remove: endpoint({
    role: 'editor',
    method: 'DELETE',
    path: '/api/products/:id',
    summary: 'Take a product away, a family with its variants; its sources are silent until they list it again',
    params: idParam,
    answer: z.object({}),
  }),
  make: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/products',
    once: true,
    summary:
      'New goods of our own: one, a family with its options, or more variants of one; taken back as the batch they came with',
    body: byHandSchema,
    answer: z.object({
      /** The family, or the single one. */
      product: z.number(),
      /** The batch they came with. */
      batch: z.number(),
    }),
  }),
};
