import { z } from 'zod';
import { escapeMarkup } from '../../values/index.js';
import { defineBlock, longestWords } from './model.js';

/** Words that stand on all goods alike; an empty line parts paragraphs. */
export const words = defineBlock({
  name: 'words',
  label: 'Words of our own',
  schema: z.strictObject({ block: z.literal('words'), words: z.string().max(longestWords) }),
  reads: () => [],
  begin: () => ({ block: 'words' as const, words: '' }),
  isWhole: (block) => block.words.trim() !== '',
  render: (block) =>
    block.words
      .split(/\n\s*\n/)
      .map((paragraph) => paragraph.trim())
      .filter(Boolean)
      .map((paragraph) => `<p>${escapeMarkup(paragraph).replace(/\s*\n\s*/g, '<br>')}</p>`)
      .join('') || undefined,
});
