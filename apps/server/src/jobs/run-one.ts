/** A process for one job: `node run-one.js NUMBER`. What happens when it is ended is what tests see to. */
import { readConfig } from '../config.js';
import { openDatabase } from '../db/client.js';
import { notifier } from '../http/events.js';
import { registerJobs } from './kinds.js';
import { runJob } from './run.js';

const config = readConfig();
const db = openDatabase(config.database, { connections: 4 });
registerJobs();
try {
  await runJob({ db, config, notify: notifier(db) }, Number(process.argv[2]));
} finally {
  await db.$client.end();
}
