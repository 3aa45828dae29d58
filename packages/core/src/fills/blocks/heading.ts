import { z } from 'zod';
import { escapeMarkup } from '../../values/index.js';
import { defineBlock, longestWords } from './model.js';

/** A heading of its own words. */
export const heading = defineBlock({
  name: 'heading',
  label: 'Heading',
  schema: z.strictObject({ block: z.literal('heading'), words: z.string().max(longestWords) }),
  reads: () => [],
  begin: () => ({ block: 'heading' as const, words: '' }),
  isWhole: ({ words }) => words.trim() !== '',
  render: ({ words }) => (words.trim() === '' ? undefined : `<h3>${escapeMarkup(words.trim())}</h3>`),
});
