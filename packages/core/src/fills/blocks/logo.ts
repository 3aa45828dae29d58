import { z } from 'zod';
import { escapeMarkup } from '../../values/index.js';
import { defineBlock, longestWords } from './model.js';

/** One picture that stands on all goods alike: a logo, by its address. */
export const logo = defineBlock({
  name: 'logo',
  label: 'A logo',
  schema: z.strictObject({
    block: z.literal('logo'),
    address: z.string().max(longestWords),
    words: z.string().max(longestWords),
  }),
  reads: () => [],
  begin: () => ({ block: 'logo' as const, address: '', words: '' }),
  isWhole: ({ address }) => /^https?:\/\/\S+$/.test(address),
  render: ({ address, words }) =>
    /^https?:\/\/\S+$/.test(address) ? `<img src="${escapeMarkup(address)}" alt="${escapeMarkup(words)}">` : undefined,
});
