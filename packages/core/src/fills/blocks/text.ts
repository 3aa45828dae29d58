import { z } from 'zod';
import { sayChannelValue } from '../../rulebooks/index.js';
import { cleanMarkup, escapeMarkup, isMarkup } from '../../values/index.js';
import { defineBlock, longestSource } from './model.js';

/** A text of the goods, with its markup; one without becomes a paragraph. */
export const text = defineBlock({
  name: 'text',
  label: 'A text of the goods',
  schema: z.strictObject({ block: z.literal('text'), from: z.string().max(longestSource) }),
  reads: ({ from }) => [from],
  begin: ({ from }) => ({ block: 'text' as const, from }),
  isWhole: ({ from }) => from !== '',
  render: ({ from }, read) => {
    const found = read(from);
    if (!found) return undefined;
    const said = sayChannelValue(found.value);
    return isMarkup(said) ? cleanMarkup(said).html : `<p>${escapeMarkup(said)}</p>`;
  },
});
