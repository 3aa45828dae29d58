/** A shop whose catalogue is read page by page, each naming where the next begins. */
import { z } from 'zod';
import { readJson } from '../../outgoing/json.js';
import type { ChannelAdapter } from './model.js';

const pageSchema = z.object({
  goods: z.array(z.unknown()),
  next: z.string().nullable(),
  of: z.number().int().nullish(),
});

export const shop = {
  kind: 'shop',
  page: (answer: string) => pageSchema.safeParse(readJson(answer)).data,
  pageAddress: (address: string, after: string) => {
    const url = new URL(address);
    if (after !== '') url.searchParams.set('after', after);
    return url;
  },
} satisfies ChannelAdapter;
