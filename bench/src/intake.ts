/**
 * Rows of CSV into a filled catalogue: parsed, matched, compared, applied; against COPY of the same rows into a staging
 * table. First load, then the same file with a tenth of it changed, then unchanged. Re-checking is timed apart.
 */
import { createReadStream, createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { csvCell } from '@velvet-shelf/core/tabular';
import { generateRows } from '@velvet-shelf/demo/generate';
import { readConfig } from '@velvet-shelf/server/config';
import { type Database, queryOne, openDatabase } from '@velvet-shelf/server/db/client';
import type { Services, User } from '@velvet-shelf/server/http/route';
import { applyTried, dryRun } from '@velvet-shelf/server/intake/service';
import { readBatch } from '@velvet-shelf/server/intake/read/take-in';
import { registerRooms } from '@velvet-shelf/server/rooms';
import { drain } from '@velvet-shelf/server/listings/drain';
import { sql } from 'drizzle-orm';
import { from } from 'pg-copy-streams';
import type { BenchLine } from './timing.js';

/** The generated rows as CSV; every tenth has another price, stock and material where `changed`. */
function* csvRows(count: number, changed: boolean): Generator<string> {
  let columns: string[] = [];
  let n = -1;
  for (const line of generateRows(count)) {
    const cells = line.replace(/\n$/, '').split('\t');
    n++;
    if (n === 0) columns = cells;
    else if (changed && n % 10 === 0) {
      cells[columns.indexOf('Stock')] = String(1000 + n);
      cells[columns.indexOf('Price GBP')] = '99.95';
      cells[columns.indexOf('Material')] = 'cork';
    }
    yield `${cells.map(csvCell).join(',')}\n`;
  }
}

async function settled(db: Database, id: number, states: string[]): Promise<void> {
  for (;;) {
    const found = await queryOne<{ state: string; error: string | null }>(
      db,
      sql`SELECT state, error FROM batch WHERE id = ${id}`,
    );
    if (found && states.includes(found.state)) return;
    if (found?.error) throw new Error(found.error);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

async function idle(db: Database): Promise<void> {
  for (;;) {
    const found = await queryOne<{ n: number }>(
      db,
      sql`SELECT count(*) AS n FROM job WHERE state IN ('waiting', 'running')`,
    );
    if ((found?.n ?? 0) === 0) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

export async function benchIntake(count: number): Promise<BenchLine[]> {
  registerRooms();
  const config = readConfig();
  const db = openDatabase(config.database, { connections: 6 });
  const services: Services = { db, config, notify: () => undefined };
  const directory = mkdtempSync(join(tmpdir(), 'velvet-bench-'));
  const user = (await queryOne<User>(
    db,
    sql`SELECT id, email, name, role, NULL AS "lastVisit" FROM user_account WHERE role = 'owner'`,
  )) as User;
  try {
    const files = { first: join(directory, 'first.csv'), changed: join(directory, 'changed.csv') };
    await pipeline(Readable.from(csvRows(count, false)), createWriteStream(files.first));
    await pipeline(Readable.from(csvRows(count, true)), createWriteStream(files.changed));
    const lines: BenchLine[] = [];
    for (const [name, file, reach] of [
      ['first load', files.first, 15],
      ['10 % changed', files.changed, 5],
      ['unchanged', files.changed, 3],
    ] as const) {
      await idle(db);
      await db.execute(sql`VACUUM ANALYZE`);
      const before = await staging(db, file);
      const start = performance.now();
      const { size } = await stat(file);
      const id = await readBatch(services, {
        name: 'bench.csv',
        path: file,
        bytes: size,
        sha256: '',
        fields: { supplier: '1' },
      });
      await dryRun(services, id);
      await settled(db, id, ['tried']);
      const tried = performance.now() - start;
      await applyTried(services, id, user);
      await settled(db, id, ['applied']);
      const whole = performance.now() - start;
      await idle(db);
      const recheck = performance.now();
      await drain(db, config.address, Number.POSITIVE_INFINITY);
      const rechecked = performance.now() - recheck;
      const copy = median([...before, ...(await staging(db, file))]);
      const ratio = Number((whole / copy).toFixed(2));
      lines.push({
        name: `intake ${name} ${count}`,
        ratio,
        reach: `<= ${reach}`,
        holds: ratio <= reach,
        figures: {
          intake_ms: Math.round(whole),
          of_it_dry_run_ms: Math.round(tried),
          copy_ms: Math.round(copy),
          rechecking_ms: Math.round(rechecked),
          megabytes: Math.round(size / 1e5) / 10,
          peak_memory_mb: Math.round(process.resourceUsage().maxRSS / 1024),
        },
      });
    }
    return lines;
  } finally {
    await idle(db);
    await db.$client.end();
    rmSync(directory, { recursive: true, force: true });
  }
}

const median = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 1;

/** Milliseconds of COPY of the file into a staging table, thrice: taken before and after, because machines have moods. */
async function staging(db: Database, file: string): Promise<number[]> {
  const client = await db.$client.connect();
  try {
    const [head = ''] = generateRows(0);
    const columns = head
      .trimEnd()
      .split('\t')
      .map((name) => `"${name}" text`);
    await client.query(`CREATE TABLE bench_staging (${columns.join(', ')})`);
    const times: number[] = [];
    for (let i = 0; i < 3; i++) {
      await client.query('TRUNCATE bench_staging');
      const start = performance.now();
      await pipeline(createReadStream(file), client.query(from('COPY bench_staging FROM STDIN (FORMAT csv, HEADER)')));
      times.push(performance.now() - start);
    }
    await client.query('DROP TABLE bench_staging');
    return times;
  } finally {
    client.release();
  }
}
