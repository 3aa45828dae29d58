import { z } from 'zod';
import type { ReadFormat } from './model.js';
import { encoding, itemPath, style, variantPath } from './settings.js';

export const json = {
  name: 'json',
  label: 'JSON',
  schema: z.strictObject({ format: z.literal('json'), encoding, itemPath, variantPath, ...style }),
  claims: (start: string) => (/^[[{]/.test(start) ? `it begins with ${start.charAt(0)}` : undefined),
} as const satisfies ReadFormat;
