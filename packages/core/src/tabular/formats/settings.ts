/** What the readings of several formats hold. */
import { z } from 'zod';
import { encodings } from '../reading.js';

export const style = {
  decimal: z.enum(['.', ',']),
  dateOrder: z.enum(['dmy', 'mdy', 'ymd']),
  /** What amounts are in that name no currency themselves (ISO 4217); said once by a person. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
};
export const encoding = z.enum(encodings);
export const headerRow = z.number().int().min(1).max(1000);
/** Keys from the root of the document to the list of items, joined by dots; empty = the root itself. */
export const itemPath = z.string().max(1000);
/** Keys from an item to the list of its variants; null = an item is one row. */
export const variantPath = z.string().max(1000).nullable();
