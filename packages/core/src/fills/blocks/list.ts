import { z } from 'zod';
import { sayChannelValue } from '../../rulebooks/index.js';
import { escapeMarkup } from '../../values/index.js';
import { defineBlock, longestSource } from './model.js';

const mostListed = 40;

/** Attributes with their values, those that the goods have. */
export const list = defineBlock({
  name: 'list',
  label: 'A list of attributes',
  schema: z.strictObject({ block: z.literal('list'), of: z.array(z.string().max(longestSource)).max(mostListed) }),
  reads: ({ of }) => of,
  begin: ({ from }) => ({ block: 'list' as const, of: from === '' ? [] : [from] }),
  isWhole: ({ of }) => of.length > 0,
  render: ({ of }, read) => {
    const rows = of.flatMap((name) => {
      const found = read(name);
      return found
        ? [`<li><b>${escapeMarkup(found.label)}</b>: ${escapeMarkup(sayChannelValue(found.value))}</li>`]
        : [];
    });
    return rows.length === 0 ? undefined : `<ul>${rows.join('')}</ul>`;
  },
});
