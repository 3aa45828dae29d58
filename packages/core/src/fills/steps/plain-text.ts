import { z } from 'zod';
import { plainText as withoutMarkup } from '../../values/index.js';
import { defineStep } from './model.js';

export const plainText = defineStep({
  name: 'plain-text',
  title: 'Take markup out',
  fields: [],
  begin: () => ({ do: 'plain-text' as const }),
  label: () => 'Take markup out',
  schema: z.strictObject({ do: z.literal('plain-text') }),
  offer: () => ({ do: 'plain-text' as const }),
  say: () => 'markup taken out',
  compile: () => withoutMarkup,
  examples: [{ step: { do: 'plain-text' }, from: '<p>A <b>pot</b></p>', to: 'A pot' }],
});
