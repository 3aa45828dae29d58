/** Who asked: statements of somebody who has gone away are stopped, so that nothing runs on for nobody. */
import { AsyncLocalStorage } from 'node:async_hooks';
import type pg from 'pg';

/** Connections that work for one request now. */
type Asker = Set<pg.PoolClient>;

const askers = new AsyncLocalStorage<Asker>();

type Taken = (error: Error | undefined, client: pg.PoolClient | undefined, done: (release?: unknown) => void) => void;

/** Has a pool note for whom it lends a connection. */
export function noteAskers(pool: pg.Pool): void {
  const connect = pool.connect.bind(pool) as {
    (): Promise<pg.PoolClient>;
    (taken: Taken): void;
  };
  const lend = (client: pg.PoolClient, asker: Asker | undefined): pg.PoolClient => {
    if (!asker) return client;
    asker.add(client);
    const release = client.release.bind(client);
    client.release = (how) => {
      asker.delete(client);
      release(how);
    };
    return client;
  };
  pool.connect = ((taken?: Taken) => {
    const asker = askers.getStore();
    if (!taken) return connect().then((client) => lend(client, asker));
    return connect((error, client, done) => taken(error, client && lend(client, asker), done));
  }) as typeof pool.connect;
}

/** Does `work` for somebody; `stop` ends, through `by`, the statements that run for it at that moment. */
export function askFor<T>(by: pg.Pool, work: (stop: () => void) => Promise<T>): Promise<T> {
  const asker: Asker = new Set();
  const stop = () => {
    for (const client of asker) {
      const { processID } = client as pg.PoolClient & { processID?: number };
      // Where even this cannot be asked the database is away, and the statement with it.
      if (processID) by.query('SELECT pg_cancel_backend($1)', [processID]).catch(() => undefined);
    }
  };
  return askers.run(asker, () => work(stop));
}
