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

/** What an account is spoken to with. */
export const credentialsSchema = z.object({
  token: z.string().min(1).max(4000),
  /** Gets another token when this one has run out. */
  renew: z.string().max(4000).nullish(),
});
export type Credentials = z.infer<typeof credentialsSchema>;

const line = z.string().max(500);

export const accountSchema = z.object({
  /** Of its own regions the one the account is in, where it keeps them apart. */
  region: line.nullish(),
  /** What is missing on the channel’s side before it takes goods, in its words. */
  missing: z.array(line).max(50).default([]),
  /** Shares of orders in per cent. */
  late: z.number().nullable().default(null),
  cancelled: z.number().nullable().default(null),
  notices: z.array(line).max(50).default([]),
  terms: z
    .array(z.object({ kind: line, key: line, label: line }))
    .max(2000)
    .default([]),
});
/** What a channel says of an account. */
export type AccountReport = z.infer<typeof accountSchema>;

export const placingSchema = z.object({ categories: z.array(z.string().max(1000)).max(100) });

/** How an account joins; each way gives what it is spoken to with. */
export type Join =
  | {
      by: 'consent';
      /** Where a person agrees; she comes back to `back` with the state and a code. */
      page(outside: Outside, asked: { state: string; challenge: string; back: string; region: string }): string;
      exchange(outside: Outside, answer: { code: string; verifier: string; back: string }): Promise<Credentials>;
    }
  | { by: 'secret'; exchange(outside: Outside, given: { id: string; secret: string }): Promise<Credentials> }
  /** The channel is told an address first, and gives a token once it has seen what stands there. */
  | { by: 'address' };

export interface ChannelAdapter {
  kind: string;
  join?: Join;
  /** Another token in place of one that has run out; refused where the account was let go on the channel. */
  renew?(outside: Outside, renew: string): Promise<Credentials>;
  /** What it says of the account: standing, what is missing, terms. */
  account?(outside: Outside, token: string): Promise<AccountReport>;
  /** Categories of its own tree it would put goods of such titles in, the likeliest first. */
  placing?(outside: Outside, token: string, goods: { language: string; titles: readonly string[] }): Promise<string[]>;
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

/** It does not let us in with what we have. */
export class NotLetIn extends Error {}

/** Its answer in the shape that was agreed, or a Problem. */
export function readAnswer<T>({ name }: Outside, schema: z.ZodType<T>, answer: Came, what: string): T {
  if (answer.status === 401) throw new NotLetIn(name);
  if (!answer.ok)
    throw new Problem(502, 'The channel refused', `${name} answered ${answer.status}: ${answer.text.slice(0, 300)}`);
  const read = schema.safeParse(readJson(answer.text));
  if (!read.success)
    throw new Problem(502, 'The channel’s answer cannot be read', `${name} sent something else than ${what}`);
  return read.data;
}
