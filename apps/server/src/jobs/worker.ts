/** Worker thread of jobs, one after the other: it is sent a job’s number, and answers when that job has ended. */
import { parentPort } from 'node:worker_threads';
import { readConfig } from '../config.js';
import { openDatabase } from '../db/client.js';
import { notifier } from '../http/events.js';
import type { WorkerNews } from './aside.js';
import { registerJobs } from './kinds.js';
import { runJob } from './run.js';

const config = readConfig();
const db = openDatabase(config.database, 4);
registerJobs();
parentPort?.on('message', (job: number) => {
  runJob({ db, config, notify: notifier(db) }, job)
    // What went wrong stands in the job's row.
    .catch(() => undefined)
    .finally(() => parentPort?.postMessage({ ended: job } satisfies WorkerNews));
});
