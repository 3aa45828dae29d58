/** Thread of jobs and calls, one after the other: it is sent what to do, and answers when that has ended. */
import { parentPort } from 'node:worker_threads';
import { readConfig } from '../config.js';
import { openDatabase } from '../db/client.js';
import { notifier } from '../http/events.js';
import { Problem } from '../http/problem.js';
import type { Services } from '../http/route.js';
import type { CallEnd, WorkerNews, WorkerOrder } from './aside.js';
import { callOf, registerCalls, registerJobs } from './kinds.js';
import { reasonOf, runJob } from './run.js';

const config = readConfig();
const db = openDatabase(config.database, { connections: 4 });
const services: Services = { db, config, notify: notifier(db) };
registerJobs();
registerCalls();

parentPort?.on('message', (order: WorkerOrder) => {
  const work = 'job' in order ? runJob(services, order.job) : callOf(order.call)(services, order.input);
  work
    .then(
      (answer): CallEnd => ({ answer }),
      (error: unknown): CallEnd =>
        error instanceof Problem
          ? { problem: [error.status, error.title, error.detail, error.errors, error.extra] }
          : // Of a job, what went wrong stands in its row.
            { fault: reasonOf(error) },
    )
    .then((ended) => parentPort?.postMessage({ ended } satisfies WorkerNews))
    .catch((error: unknown) => parentPort?.postMessage({ ended: { fault: reasonOf(error) } } satisfies WorkerNews));
});
