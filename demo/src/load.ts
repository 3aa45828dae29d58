/** Loads the demo into an empty database: set-up, pictures, and the own sheet through the real intake. */
import { copyFile, mkdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { parseRows } from '@velvet-shelf/core/tabular';
import { readConfig } from '@velvet-shelf/server/config';
import { type Database, json, one, openDatabase } from '@velvet-shelf/server/db/client';
import { readyPartitions } from '@velvet-shelf/server/history/partitions';
import type { Services, User } from '@velvet-shelf/server/http/route';
import { applyTried, dryRun, readBatch } from '@velvet-shelf/server/intake/service';
import { registerJobs } from '@velvet-shelf/server/jobs/kinds';
import { drain } from '@velvet-shelf/server/listings/evaluate';
import { sql } from 'drizzle-orm';
import iconv from 'iconv-lite';
import { writeGenerated } from './generate.js';
import { drawPictures } from './pictures.js';
import { demoFiles, writeSetup } from './setup.js';

const sizes: Record<string, number> = { '1k': 1000, '10k': 10_000, '100k': 100_000 };

const { values } = parseArgs({ options: { bare: { type: 'boolean', default: false }, size: { type: 'string' } } });
const config = readConfig();
const db = openDatabase(config.database, 4);
registerJobs();
const standins = process.env.VELVET_STANDINS ?? 'http://127.0.0.1:1';
try {
  const filled = await one<{ n: number }>(db, sql`SELECT count(*) AS n FROM user_account`);
  if ((filled?.n ?? 0) > 0) {
    await db.execute(
      sql`UPDATE account SET address = ${`${standins}/orrivo`} WHERE channel_id = (SELECT id FROM channel WHERE key = 'orrivo')`,
    );
    await db.execute(
      sql`UPDATE pull SET address = ${`${standins}/windowsill/api/goods`} WHERE name = 'Windowsill shop' AND address LIKE 'http://127.0.0.1:%'`,
    );
  } else await load(db);
} finally {
  await db.$client.end();
}

async function load(database: Database): Promise<void> {
  process.stdout.write('loading the demo\n');
  await readyPartitions(database, new Date());
  const { owner } = await writeSetup(database, standins);
  const drawn = await drawPictures(await pictureNames(), join(config.files, 'media'));
  await database.execute(sql`
    INSERT INTO media (name, format, bytes, width, height) SELECT name, format, bytes, width, height
    FROM jsonb_to_recordset(${json(drawn)}) AS t(name text, format text, bytes int, width int, height int)`);
  const services: Services = { db: database, config, notify: () => undefined };
  const user = await one<User>(
    database,
    sql`SELECT id, email, name, role, last_visit AS "lastVisit" FROM user_account WHERE id = ${owner}`,
  );
  if (!user || values.bare) return;
  if (values.size) {
    const count = sizes[values.size];
    if (count === undefined)
      throw new Error(`There is no size “${values.size}”; choose ${Object.keys(sizes).join(', ')}`);
    const path = join(config.files, 'intake', 'generated.tsv');
    await mkdir(join(config.files, 'intake'), { recursive: true });
    await writeGenerated(path, count);
    await bringIn(services, user, path, 'mosswick-generated.tsv');
  } else {
    const path = join(config.files, 'intake', 'mosswick-own.tsv');
    await mkdir(join(config.files, 'intake'), { recursive: true });
    await copyFile(join(demoFiles, 'intake', 'mosswick-own.tsv'), path);
    await bringIn(services, user, path, 'mosswick-own.tsv');
  }
}

async function bringIn(services: Services, user: User, path: string, name: string): Promise<void> {
  const supplier = await one<{ id: number }>(services.db, sql`SELECT id FROM supplier WHERE kind = 'own'`);
  const { size } = await stat(path);
  const id = await readBatch(services, {
    name,
    path,
    bytes: size,
    sha256: '',
    fields: { supplier: String(supplier?.id ?? '') },
  });
  await dryRun(services, id);
  await applyTried(services, id, user);
  for (;;) {
    const batch = await one<{ state: string }>(services.db, sql`SELECT state FROM batch WHERE id = ${id}`);
    if (batch?.state !== 'applying') break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  await drain(services.db, services.config.address, Number.POSITIVE_INFINITY);
}

/** Every picture the demo's files name. */
async function pictureNames(): Promise<string[]> {
  const names = new Set<string>();
  const take = (text: string, delimiter: '\t' | ';', columns: string[]) => {
    const [header = [], ...rows] = parseRows(text, delimiter);
    const at = columns.map((column) => header.indexOf(column));
    for (const row of rows)
      for (const i of at)
        for (const name of (row[i] ?? '').split(','))
          if (/^[\w.-]+\.(jpe?g|png|webp)$/.test(name.trim())) names.add(name.trim());
  };
  take((await readFile(join(demoFiles, 'intake/mosswick-own.tsv'), 'utf8')).replace(/^\uFEFF/, ''), '\t', [
    'Picture',
    'More pictures',
  ]);
  take(iconv.decode(await readFile(join(demoFiles, 'intake/brackwater-pottery.csv')), 'windows-1252'), ';', ['Bild']);
  return [...names].sort();
}
