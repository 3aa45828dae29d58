/** Loads the demo into an empty database; one that is filled already is only told where the simulated channels are now. */
import { parseArgs } from 'node:util';
import { readConfig } from '@velvet-shelf/server/config';
import { openDatabase, queryOne } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';

const flag = { type: 'boolean', default: false } as const;
const { values } = parseArgs({ options: { bare: flag, own: flag, size: { type: 'string' } } });
const config = readConfig();
const db = openDatabase(config.database, { connections: 4 });
const standins = process.env.VELVET_STANDINS ?? 'http://127.0.0.1:1';
try {
  const filled = await queryOne<{ n: number }>(db, sql`SELECT count(*) AS n FROM user_account`);
  if ((filled?.n ?? 0) > 0) {
    await db.execute(
      sql`UPDATE account a SET address = ${standins} || '/' || c.key FROM channel c WHERE c.id = a.channel_id AND a.address LIKE 'http://127.0.0.1:%'`,
    );
    await db.execute(
      sql`UPDATE pull SET address = ${`${standins}/windowsill/api/goods`} WHERE name = 'Windowsill shop' AND address LIKE 'http://127.0.0.1:%'`,
    );
  } else {
    // What it takes to fill one is loaded only then: tests come by here with filled ones.
    const { fill } = await import('./fill.js');
    const goods = values.bare ? 'none' : values.own ? 'own' : 'all';
    await fill(db, config, { standins, goods, size: values.size });
  }
} finally {
  await db.$client.end();
}
