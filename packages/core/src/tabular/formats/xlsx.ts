import { z } from 'zod';
import type { ReadFormat } from './model.js';
import { headerRow, style } from './settings.js';

export const xlsx = {
  name: 'xlsx',
  label: 'XLSX workbook',
  schema: z.strictObject({
    format:
      z.literal(
        'xlsx',
      ) /** `merged`: cells are merged down over rows, so that the sheet has to be gone through once before. */,
    sheets: z
      .array(z.strictObject({ name: z.string(), headerRow, read: z.boolean(), merged: z.boolean().optional() }))
      .min(1),
    ...style,
  }),
} as const satisfies ReadFormat;
