/** How often somebody may try to sign in: counted for an account and for an address, over all servers. */
import { RateLimiterPostgres, type RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '../db/client.js';

const window = 15 * 60;
const most = { account: 10, address: 100 };

export interface Tries {
  /** Counts a try; answers the seconds to wait where there were too many, else 0. */
  take(account: string, address: string): Promise<number>;
  /** The right password: the account's tries are forgotten, and this one was none of the address's. */
  forget(account: string, address: string): Promise<void>;
}

export function countTries(db: Database): Tries {
  const limiter = (keyPrefix: keyof typeof most) =>
    new RateLimiterPostgres({
      storeClient: db.$client,
      tableName: 'sign_in_try',
      tableCreated: true,
      clearExpiredByTimeout: false,
      keyPrefix,
      points: most[keyPrefix],
      duration: window,
    });
  const [accounts, addresses] = [limiter('account'), limiter('address')];
  // Somebody else's wrong tries from elsewhere must not lock a person out of an account.
  const key = (account: string, address: string) => `${account.slice(0, 200)} ${address}`;
  return {
    async take(account, address) {
      const waits = await Promise.all([waitOf(accounts, key(account, address)), waitOf(addresses, address)]);
      return Math.max(...waits);
    },
    async forget(account, address) {
      await accounts.delete(key(account, address));
      await addresses.reward(address);
    },
  };
}

async function waitOf(limiter: RateLimiterPostgres, key: string): Promise<number> {
  try {
    await limiter.consume(key);
    return 0;
  } catch (error) {
    // What is no count is a fault of the database.
    if (error instanceof Error) throw error;
    return Math.max(1, Math.ceil((error as RateLimiterRes).msBeforeNext / 1000));
  }
}
