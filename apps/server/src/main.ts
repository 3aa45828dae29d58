/** Starts the server: HTTP, events, the job sweep and the drain of what is dirty. */
import { createServer } from 'node:http';
import { viewSchema } from '@velvet-shelf/contract';
import { pino } from 'pino';
import { readConfig } from './config.js';
import { openDatabase } from './db/client.js';
import { waitForDatabase } from './db/wait.js';
import { createApp } from './app.js';
import { forgetViews } from './catalog/grid.js';
import { firstOf } from './catalog/views/ask.js';
import { forgetChanges } from './catalog/views/goods.js';
import { forgetKeys } from './http/once.js';
import { countTries } from './session/tries.js';
import { listenForEvents, notifier } from './http/events.js';
import type { Services } from './http/route.js';
import { isAnyDirty } from './history/dirty.js';
import { readyPartitions } from './history/partitions.js';
import { startDuePulls } from './intake/pull/pull.js';
import { apart, runAside } from './jobs/aside.js';
import { refreshDueAccounts } from './channels/accounts.js';
import { takeDueRulebooks } from './channels/taking.js';
import { isPassing, reasonOf, sweepJobs } from './jobs/run.js';
import { markDue } from './listings/drain.js';
import { evaluateDirty } from './listings/jobs.js';
import { registerRooms } from './rooms.js';

registerRooms();

const config = readConfig();
/** What a statement was given may be megabytes of goods, and is nobody's business in a log. */
const longestMessage = 600;
/** Where it happened, without the message above it, which may hold the values of a statement. */
const framesOf = (stack: string) =>
  stack
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12)
    .join('\n');
const log = pino({
  level: config.log,
  serializers: {
    err: (error: unknown) => {
      const { type, stack } = pino.stdSerializers.err(error instanceof Error ? error : new Error(String(error)));
      return { type, message: reasonOf(error).slice(0, longestMessage), stack: framesOf(stack) };
    },
  },
});
const say = (words: string) => process.stderr.write(`${words}\n`);
await waitForDatabase(config.database, say);
/** What requests ask of the database; longer than this nobody waits. */
const db = openDatabase(config.database, { connections: 10, statementTimeout: 20_000 });
/** Apart, so that signing in and health answer whatever else is asked. */
const sessionDb = openDatabase(config.database, { connections: 3, statementTimeout: 5_000 });
const behind = openDatabase(config.database, { connections: 5 });
const notify = notifier(behind);
const services: Services = { db, config, notify };
const background: Services = { db: behind, config, notify };

await readyPartitions(behind, new Date());
const stopEvents = await listenForEvents(behind);
const app = createApp({
  services,
  sessions: { db: sessionDb, config, tries: countTries(sessionDb), log },
  log,
});
const answer = app.callback();
const server = createServer((request, response) => void answer(request, response));
server.keepAliveTimeout = 65_000;
server.requestTimeout = 600_000;
server.headersTimeout = 30_000;
server.listen(config.port, '127.0.0.1');

// Whoever looks at goods first shall not wait for them to be read. A shelf nobody owns yet has none.
firstOf(viewSchema.parse({ search: 'a' })).catch(() => undefined);

// Every promise has its catch; one that was forgotten must not take the others down.
process.on('unhandledRejection', (error) => log.error({ err: error }, 'a promise nobody waited for failed'));

/** Runs `work` again and again, never twice at once. */
function every(milliseconds: number, work: () => Promise<void>): () => Promise<void> {
  let stopped = false;
  let running = Promise.resolve();
  const tick = () => {
    if (stopped) return;
    running = work().catch((error: unknown) => {
      // A database that starts again, or a deadlock, is no fault of the work; the next round does it.
      if (isPassing(error)) log.info('the database was away or busy; once more');
      else log.error({ err: error }, 'background work failed');
    });
    void running.then(() => setTimeout(tick, milliseconds).unref());
  };
  setTimeout(tick, milliseconds).unref();
  return () => {
    stopped = true;
    return running;
  };
}

let ending = false;
const stops = [
  // Not waited for: a job that is sent twice is run once.
  every(5_000, () =>
    sweepJobs(background, async (_, id) => {
      runAside(id).catch((error: unknown) => log.error({ err: error }, 'a job’s thread died'));
    }),
  ),
  every(10_000, () => startDuePulls(background)),
  every(1_000, async () => {
    for (let isMore = await isAnyDirty(behind); isMore && !ending;) {
      const done = await apart(evaluateDirty, background, 1000);
      if (done.listingsChanged > 0) notify('listings');
      isMore = done.left;
    }
  }),
  every(60_000, async () => {
    await readyPartitions(behind, new Date());
    await forgetKeys(behind);
    await forgetViews(behind);
    await forgetChanges(behind);
    if ((await markDue(behind)) > 0) notify('listings');
    await takeDueRulebooks(background);
    await refreshDueAccounts(background);
  }),
];

async function end(): Promise<void> {
  if (ending) return;
  ending = true;
  stopEvents();
  server.close();
  server.closeAllConnections();
  await Promise.race([Promise.all(stops.map((stop) => stop())), new Promise((resolve) => setTimeout(resolve, 5_000))]);
  // The process ends all the same.
  await Promise.all([db, sessionDb, behind].map((database) => database.$client.end().catch(() => undefined)));
  process.exit(0);
}
process.on('SIGTERM', () => void end());
process.on('SIGINT', () => void end());

/** Whoever started us may be killed without a chance to end us. */
const parent = Number(process.env.VELVET_PARENT);
if (parent)
  setInterval(() => {
    try {
      process.kill(parent, 0);
    } catch {
      void end();
    }
  }, 2_000).unref();
