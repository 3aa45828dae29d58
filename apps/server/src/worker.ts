/** Thread of jobs and calls, one after the other: it is sent what to do, and answers when that has ended. */
import { parentPort } from 'node:worker_threads';
import { readConfig } from './config.js';
import { openDatabase } from './db/client.js';
import { notifier } from './http/events.js';
import type { Services } from './http/route.js';
import type { WorkerNews, WorkerOrder } from './jobs/aside.js';
import { callOf } from './jobs/define.js';
import { ended } from './jobs/ended.js';
import { reasonOf, runJob } from './jobs/run.js';
import { registerRooms } from './rooms.js';

const config = readConfig();
const db = openDatabase(config.database, { connections: 4 });
const services: Services = { db, config, notify: notifier(db) };
registerRooms();

parentPort?.on('message', (order: WorkerOrder) => {
  const work = 'job' in order ? runJob(services, order.job) : callOf(order.call).run(services, order.input as never);
  ended(work)
    .then((end) => parentPort?.postMessage({ ended: end } satisfies WorkerNews))
    .catch((error: unknown) =>
      parentPort?.postMessage({ ended: { fault: reasonOf(error), passing: false } } satisfies WorkerNews),
    );
});
