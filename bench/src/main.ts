/** Runs one benchmark at one size; the command gives both and the database. */
import { benchChecks } from './checks.js';
import { benchFeed } from './feed.js';

const [name, size] = process.argv.slice(2);
const count = Number(size);
const lines = name === 'checks' ? await benchChecks(count) : await benchFeed(count);
for (const line of lines) process.stdout.write(`${JSON.stringify(line)}\n`);
