/** Speaking to a channel as one of our accounts: with what it let us in by, renewed where that has run out. */
import type { AccountAnswer } from '@velvet-shelf/contract';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { eq, sql } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { Problem, conflict, notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { unseal } from '../outgoing/seal.js';
import { type Credentials, NotLetIn, type Outside, adapterOf, credentialsSchema } from './adapters/index.js';

const { account, channel, rulebook } = tables;

/** An account with its channel. */
export async function accountRow(on: Executor, id: number) {
  const row = await first(
    on
      .select({
        account,
        channelName: channel.name,
        adapter: channel.adapter,
        terms: sql<NonNullable<Rulebook['terms']>>`coalesce(${rulebook.body} -> 'terms', '[]')`,
        regions: sql<NonNullable<Rulebook['regions']>>`coalesce(${rulebook.body} -> 'regions', '[]')`,
        markets: sql<Rulebook['markets']>`coalesce(${rulebook.body} -> 'markets', '[]')`,
      })
      .from(account)
      .innerJoin(channel, eq(channel.id, account.channelId))
      .leftJoin(rulebook, eq(rulebook.id, channel.rulebookId))
      .where(eq(account.id, id)),
  );
  if (!row) throw notFound(`account ${id}`);
  return row;
}
export type AccountRow = Awaited<ReturnType<typeof accountRow>>;

export const outside = (
  { config }: Pick<Services, 'config'>,
  { account: { address }, channelName }: AccountRow,
): Outside => ({
  config,
  name: channelName,
  address,
});

/** What it answered, or why it did not; with other credentials where it gave some. */
export type Spoken<T> = { credentials?: Credentials } & (
  { answer: T } | { state: { state?: AccountAnswer['state']; fault: string } }
);

/** Refuses where the account is not connected. */
async function credentialsOf(
  { config }: Pick<Services, 'config'>,
  { account: { credentials: sealed, name }, channelName }: AccountRow,
): Promise<Credentials> {
  const read = credentialsSchema.safeParse(sealed === null ? undefined : await unseal(config, sealed));
  if (read.success) return read.data;
  throw conflict(
    sealed === null
      ? `${name} is not connected to ${channelName}`
      : `What ${channelName} is spoken to with was sealed with another key: connect it again`,
  );
}

/** Says something with the account’s token; one that has run out is renewed, once. */
export async function speak<T>(
  services: Pick<Services, 'config'>,
  row: AccountRow,
  say: (token: string) => Promise<T>,
): Promise<Spoken<T>> {
  const credentials = await credentialsOf(services, row);
  try {
    return { answer: await say(credentials.token) };
  } catch (error) {
    if (error instanceof Problem) return { state: { fault: error.message } };
    if (!(error instanceof NotLetIn)) throw error;
  }
  const lost = {
    state: {
      state: 'expired' as const,
      fault: `${row.channelName} does not let us in any more: connect the account again`,
    },
  };
  const { renew } = adapterOf(row.adapter);
  if (!renew || !credentials.renew) return lost;
  try {
    const fresh = await renew(outside(services, row), credentials.renew);
    return { credentials: fresh, answer: await say(fresh.token) };
  } catch (error) {
    if (error instanceof NotLetIn) return lost;
    if (error instanceof Problem) return { state: { fault: error.message } };
    throw error;
  }
}
