/** A database that is starting or recovering is waited for, in words. */
import pg from 'pg';

/** Longest a recovery is waited for; one that answers nothing at all is given up sooner. */
const longest = { recovering: 600_000, silent: 30_000 };

/** Resolves when the database takes connections; says now and then what is waited for. */
export async function waitForDatabase(url: string, say: (words: string) => void): Promise<void> {
  const begun = Date.now();
  for (let told = 0; ;) {
    const why = await tryOnce(url);
    if (why === undefined) return;
    const waited = Date.now() - begun;
    if (!isComing(why) || waited > (isSilent(why) ? longest.silent : longest.recovering))
      throw new Error(`The database cannot be reached: ${why.message}`);
    if (Date.now() - told > 10_000) {
      say(`waiting for the database: ${isSilent(why) ? 'it does not answer yet' : why.message}`);
      told = Date.now();
    }
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}

type Fault = Error & { code?: string };

async function tryOnce(url: string): Promise<Fault | undefined> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
  client.on('error', () => undefined);
  try {
    await client.connect();
    return undefined;
  } catch (error) {
    return error as Fault;
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** PostgreSQL's word for "starting up", "shutting down" and "in recovery". */
const notYet = '57P03';
const isSilent = ({ code = '' }: Fault) => /^(?:ECONN|ETIMEDOUT|EHOSTUNREACH)/.test(code);
const isComing = (fault: Fault) => fault.code === notYet || isSilent(fault);
