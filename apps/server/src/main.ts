/** Starts the server: HTTP, events, the job sweep and the drain of what is dirty. */
import { createServer } from 'node:http';
import { pino } from 'pino';
import { readConfig } from './config.js';
import { openDatabase } from './db/client.js';
import { createApp } from './http/app.js';
import { listenForEvents, notifier } from './http/events.js';
import type { Services } from './http/route.js';
import { readyPartitions } from './history/partitions.js';
import { startDuePulls } from './intake/pull.js';
import { runAside } from './jobs/aside.js';
import { registerJobs } from './jobs/kinds.js';
import { isPassing, sweepJobs } from './jobs/run.js';
import { drain, markDue } from './listings/evaluate.js';
import { registerRooms } from './rooms.js';

registerJobs();
registerRooms();

const config = readConfig();
/** What a statement was given may be megabytes of goods, and is nobody's business in a log. */
const longestMessage = 600;
const log = pino({
  level: config.log,
  serializers: {
    err: (error: Error) => {
      const { type, message, stack } = pino.stdSerializers.err(error);
      return { type, message: message.slice(0, longestMessage), stack: stack.slice(-2 * longestMessage) };
    },
  },
});
const db = openDatabase(config.database);
const services: Services = { db, config, notify: notifier(db) };

await readyPartitions(db, new Date());
const stopEvents = await listenForEvents(db);
const server = createServer(createApp(services, log).callback());
server.keepAliveTimeout = 65_000;
server.listen(config.port, '127.0.0.1');

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

const stops = [
  // Not waited for: a job that is sent twice is run once.
  every(5_000, () =>
    sweepJobs(services, async (_, id) => {
      runAside(id).catch((error: unknown) => log.error({ err: error }, 'a job’s thread died'));
    }),
  ),
  every(10_000, () => startDuePulls(services)),
  every(1_000, async () => {
    const done = await drain(db, config.address, 1000);
    if (done.listingsChanged > 0) services.notify('listings');
  }),
  every(60_000, async () => {
    await readyPartitions(db, new Date());
    if ((await markDue(db)) > 0) services.notify('listings');
  }),
];

let ending = false;
async function end(): Promise<void> {
  if (ending) return;
  ending = true;
  stopEvents();
  server.close();
  server.closeAllConnections();
  await Promise.race([Promise.all(stops.map((stop) => stop())), new Promise((resolve) => setTimeout(resolve, 5_000))]);
  await db.$client.end().catch(() => undefined);
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
