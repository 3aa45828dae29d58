import { z } from 'zod';
import type { ReadFormat } from './model.js';
import { encoding, itemPath, style, variantPath } from './settings.js';

export const xml = {
  name: 'xml',
  label: 'XML',
  schema: z.strictObject({
    format: z.literal('xml'),
    encoding,
    itemPath,
    variantPath,
    /** Local names that elements of several namespaces have in one item: they are kept apart by their prefix. */
    apart: z.array(z.string().max(200)).max(200).optional(),
    ...style,
  }),
  claims: (start: string) => (/^<[?!a-z_]/i.test(start) ? 'it begins with a tag' : undefined),
} as const satisfies ReadFormat;
