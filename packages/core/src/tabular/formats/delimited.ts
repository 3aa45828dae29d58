import { z } from 'zod';
import type { ReadFormat } from './model.js';
import { delimiters } from '../reading.js';
import { encoding, headerRow, style } from './settings.js';

export const delimited = {
  name: 'delimited',
  label: 'Delimited text',
  schema: z.strictObject({
    format: z.literal('delimited'),
    encoding,
    delimiter: z.enum(delimiters),
    headerRow,
    ...style,
  }),
  /** What nothing else claims. */
  claims: () => 'it is text with separators',
} as const satisfies ReadFormat;
