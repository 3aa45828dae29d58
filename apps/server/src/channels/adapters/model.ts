/** What an adapter is: how one kind of channel is spoken to. One file a kind; what a channel has not got is left out. */
import { z } from 'zod';
import type { Config } from '../../config.js';
import { Problem } from '../../http/problem.js';
import { readJson } from '../../outgoing/json.js';
import { type Came, type Sent, Unreachable, reachOut } from '../../outgoing/reach.js';

/** Whom it speaks to. */
export interface Outside {
  config: Config;
  /** As people know it. */
  name: string;
  /** Start of its addresses. */
  address: string;
}

export const reportSchema = z.object({
  report: z.string(),
  state: z.enum(['working', 'done', 'failed']),
  problem: z.string().nullish(),
  checked: z.number(),
  total: z.number(),
  items: z.array(
    z.object({
      key: z.string(),
      outcome: z.enum(['accepted', 'warned', 'refused']),
      code: z.string().nullish(),
      message: z.string().nullish(),
      /** The item’s number on the channel. */
      number: z.string().nullish(),
    }),
  ),
});
/** What a channel says of the items it was sent; more comes while it is `working`. */
export type ChannelReport = z.infer<typeof reportSchema>;

/** A page of a shop’s catalogue: goods as the shop describes them, and where the next page begins. */
export interface GoodsPage {
  goods: unknown[];
  next: string | null;
  of?: number | null | undefined;
}

export interface ChannelAdapter {
  kind: string;
  /** Asks it to fetch a feed from its address. */
  offer?(outside: Outside, feed: { market: string; address: string }): Promise<ChannelReport>;
  /** How far it is with what it was offered, and what it says of the items. */
  report?(outside: Outside, number: string): Promise<ChannelReport>;
  /** An item of its own catalogue, as it describes it; undefined where it knows none. */
  item?(outside: Outside, identifier: string): Promise<Record<string, unknown> | undefined>;
  /** What it answers from a catalogue address, if that is a page of goods. */
  page?(answer: string): GoodsPage | undefined;
  /** Where the page after this mark is asked for. */
  pageAddress?(address: string, after: string): URL;
}

/** Asks it; where it cannot be reached that is a Problem people can read. `ending` says what is kept. */
export async function ask({ config, name, address }: Outside, path: string, sent: Sent, ending = ''): Promise<Came> {
  return reachOut(config, `${address}${path}`, sent).catch((error: unknown) => {
    if (!(error instanceof Unreachable)) throw error;
    throw new Problem(502, 'The channel cannot be reached', `${name} ${error.message}.${ending}`);
  });
}

/** Its answer in the shape that was agreed, or a Problem. */
export function readAnswer<T>({ name }: Outside, schema: z.ZodType<T>, answer: Came, what: string): T {
  if (!answer.ok)
    throw new Problem(502, 'The channel refused', `${name} answered ${answer.status}: ${answer.text.slice(0, 300)}`);
  const read = schema.safeParse(readJson(answer.text));
  if (!read.success)
    throw new Problem(502, 'The channel’s answer cannot be read', `${name} sent something else than ${what}`);
  return read.data;
}
