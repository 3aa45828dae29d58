/** A process for one job: `node run-one.js NUMBER`. What happens when it is ended is what tests see to. */
import { readConfig } from './config.js';
import { openDatabase } from './db/client.js';
import { notifier } from './http/events.js';
import { registerRooms } from './rooms.js';
import { runJob } from './jobs/run.js';

const config = readConfig();
const db = openDatabase(config.database, { connections: 4 });
registerRooms();
try {
  await runJob({ db, config, notify: notifier(db) }, Number(process.argv[2]));
} finally {
  await db.$client.end();
}
