/** Worker thread of one job. */
import { workerData } from 'node:worker_threads';
import { readConfig } from '../config.js';
import { openDatabase } from '../db/client.js';
import { notifier } from '../http/events.js';
import { registerJobs } from './kinds.js';
import { runJob } from './run.js';

const { job } = workerData as { job: number };
const config = readConfig();
const db = openDatabase(config.database, 4);
registerJobs();
try {
  await runJob({ db, config, notify: notifier(db) }, job);
} catch {
  // What went wrong stands in the job's row.
} finally {
  await db.$client.end();
}
