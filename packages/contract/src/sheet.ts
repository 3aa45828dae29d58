/** The sheet: goods of a view in rows, slots of theirs in columns, saved as one. */
import { channelTypes } from '@velvet-shelf/core/rulebooks';
import { attributeTypes, dimensions, roles } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { editSchema } from './catalog.js';
import { effectSchema, triedEffectSchema } from './effect.js';
import { endpoint } from './endpoint.js';

/** Goods in a sheet, and cells saved at once. */
export const mostSheetRows = 5000;
export const mostSheetCells = 50_000;

/** An attribute as core reads typed texts by it, its list with all names and spellings. */
const readAttributeSchema = z.object({
  key: z.string(),
  label: z.string(),
  type: z.enum(attributeTypes),
  many: z.boolean(),
  perLanguage: z.boolean(),
  level: z.enum(['family', 'variant']),
  group: z.string(),
  dimension: z.enum(dimensions).optional(),
  role: z.enum(roles).optional(),
  choices: z
    .array(
      z.union([
        z.string(),
        z.object({
          key: z.string(),
          names: z.record(z.string(), z.string()),
          spellings: z.array(z.string()).optional(),
          parent: z.string().optional(),
          hidden: z.boolean().optional(),
          mergedInto: z.string().optional(),
        }),
      ]),
    )
    .optional(),
});

export const sheetColumnSchema = z.object({
  /** "material", "title@de-DE", "price@EUR", "stock", "pin@3/words". */
  slot: z.string(),
  label: z.string(),
  group: z.string(),
  /** What an edit of it names. */
  attribute: z.string(),
  language: z.string().nullable(),
  /** Null where it is no attribute: a price or the stock. */
  read: readAttributeSchema.nullable(),
  /** An attribute of a channel, whose values may be pinned for listings at a place. */
  pin: z
    .object({
      placeId: z.number(),
      /** Key of the channel’s attribute. */
      key: z.string(),
      place: z.string(),
      /** ISO 4217. */
      currency: z.string(),
      label: z.string(),
      type: z.enum(channelTypes),
      values: z.array(z.string()).optional(),
    })
    .optional(),
});
export type SheetColumn = z.infer<typeof sheetColumnSchema>;

/** Whose a cell's value is: a person's, a source's, the family's, a fill's, or nobody's; `nowhere`: the goods are not at the place of the column. */
export const cellOrigins = ['own', 'source', 'family', 'fill', 'none', 'nowhere'] as const;
export type CellOrigin = (typeof cellOrigins)[number];

export const sheetRowSchema = z.object({
  id: z.number(),
  sku: z.string().nullable(),
  family: z.object({ id: z.number(), title: z.string().nullable() }).nullable(),
  title: z.string().nullable(),
  /** In the order of the columns asked for: the text as one would type it, and whose it is. */
  cells: z.array(z.tuple([z.string().nullable(), z.enum(cellOrigins)])),
});
export type SheetRow = z.infer<typeof sheetRowSchema>;

/** Cells by product. */
const cellsSchema = z.object({
  products: z
    .array(z.object({ productId: z.number(), edits: z.array(editSchema).min(1).max(200) }))
    .min(1)
    .max(mostSheetRows)
    .refine(
      (products) => products.reduce((sum, { edits }) => sum + edits.length, 0) <= mostSheetCells,
      `${mostSheetCells} cells at most at once`,
    ),
});

export const sheet = {
  columns: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/sheet/columns',
    summary: 'What a sheet can show and change',
    answer: z.object({ items: z.array(sheetColumnSchema) }),
  }),
  rows: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/views/:token/sheet',
    summary: 'Rows of a view as cells',
    params: z.object({ token: z.string().max(100) }),
    query: z.object({
      from: z.coerce.number().int().min(0),
      count: z.coerce.number().int().min(1).max(500),
      columns: z.string().max(8000).default(''),
    }),
    /** Goods that have gone since are left out. */
    answer: z.object({ items: z.array(sheetRowSchema) }),
  }),
  tryOut: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/sheet/try',
    summary: 'What saving these cells would do to listings; nothing is kept',
    body: cellsSchema,
    answer: triedEffectSchema,
  }),
  save: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/sheet',
    once: true,
    summary:
      'Save cells of many products as one action; 412 with all conflicts where somebody was faster, and nothing is saved',
    body: cellsSchema,
    answer: effectSchema,
  }),
};
