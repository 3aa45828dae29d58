import { z } from 'zod';
import { escapeMarkup } from '../../values/index.js';
import { defineBlock, longestSource } from './model.js';

/** Pictures of the goods, by their addresses. */
export const picture = defineBlock({
  name: 'picture',
  label: 'Pictures of the goods',
  schema: z.strictObject({ block: z.literal('picture'), from: z.string().max(longestSource) }),
  reads: ({ from }) => [from],
  begin: ({ picture: from }) => ({ block: 'picture' as const, from }),
  isWhole: ({ from }) => from !== '',
  render: ({ from }, read) => {
    const value = read(from)?.value;
    if (typeof value !== 'object' || value.kind !== 'pictures') return undefined;
    return value.pictures.map(({ address }) => `<img src="${escapeMarkup(address)}" alt="">`).join('') || undefined;
  },
});
