/** What a batch makes in the dictionary: attributes of columns without a home, values of lists. */
import { attributeTypes, dimensions, roles } from '@velvet-shelf/core/values';
import { z } from 'zod';

/** A column that nothing is made of, and the attribute it would make. */
export const homelessSchema = z.object({
  column: z.string(),
  label: z.string(),
  type: z.enum(attributeTypes),
  many: z.boolean(),
  perLanguage: z.boolean(),
  dimension: z.enum(dimensions).nullable(),
  values: z.array(z.string()),
  unit: z.string().nullable(),
  why: z.string(),
});

export const makeSchema = z.object({
  attributes: z
    .array(
      z.object({
        column: z.string(),
        label: z.string().trim().min(1, 'Give its name').max(120),
        type: z.enum(attributeTypes),
        many: z.boolean(),
        perLanguage: z.boolean(),
        dimension: z.enum(dimensions).nullable(),
        role: z.enum(roles).nullable().default(null),
        level: z.enum(['family', 'variant']).default('variant'),
        group: z.string().trim().min(1).max(60).default('Own'),
        unit: z.string().nullable().default(null),
        values: z.array(z.string().trim().min(1).max(200)).max(2000).default([]),
      }),
    )
    .max(300)
    .default([]),
  /** Cells of a column that are to be values of an attribute’s list; of our tree as paths. */
  values: z
    .array(z.object({ attribute: z.string(), cells: z.array(z.string().max(2000)).min(1).max(5000) }))
    .max(100)
    .default([]),
  /** Keys of attributes, or of values with those below them, that are not to be made after all. */
  leave: z.array(z.string()).max(5000).default([]),
});
