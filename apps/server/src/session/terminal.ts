/** What ./velvet asks of the shelf from the terminal: a code for the first visit, a new password for somebody. */
import { readConfig } from '../config.js';
import { openDatabase } from '../db/client.js';
import { Problem } from '../http/problem.js';
import { newCode } from './codes.js';
import { renewCode } from './first-run.js';
import { resetPassword } from './passwords.js';

const db = openDatabase(readConfig().database, { connections: 2 });
const [wish, email = ''] = process.argv.slice(2);
try {
  if (wish === 'password') {
    const password = `${newCode()}-${newCode()}`;
    const name = await resetPassword(db, email, password);
    process.stdout.write(
      `${name} can sign in as ${email} with ${password}\nIt can be changed at the face at the right of the edge.\n`,
    );
  } else {
    const code = await renewCode(db);
    // Of ./velvet start: that there is an owner already is no news.
    if (code !== undefined) process.stdout.write(`first visit code ${code}\n`);
    else if (wish === 'code')
      process.stdout.write(
        'This shelf has an owner already: sign in, or ask for an invitation. ./velvet password E-MAIL gives somebody a new password.\n',
      );
  }
} catch (error) {
  if (!(error instanceof Problem)) throw error;
  process.stderr.write(`${error.detail}\n`);
  process.exitCode = 1;
} finally {
  await db.$client.end();
}
