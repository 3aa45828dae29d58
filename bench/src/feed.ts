/** A whole CSV out of the catalog tables, evaluated and checked, against COPY of a flat typed table of the finished rows. */
import { createReadStream, createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import { compileFor } from '@velvet-shelf/server/channels/setup';
import { listPlaces } from '@velvet-shelf/server/channels/places';
import { openDatabase } from '@velvet-shelf/server/db/client';
import { streamFamilies } from '@velvet-shelf/server/feeds/families';
import { stockAt } from '@velvet-shelf/server/stock/serves';
import { type Written, writeFeed } from '@velvet-shelf/server/feeds/write';
import { from, to } from 'pg-copy-streams';
import { type BenchLine, compare } from './timing.js';

export async function benchFeed(count: number): Promise<BenchLine[]> {
  const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 3 });
  const client = await db.$client.connect();
  const directory = mkdtempSync(join(tmpdir(), 'velvet-bench-'));
  try {
    await client.query('VACUUM ANALYZE');
    const [row] = await listPlaces(db);
    if (!row) throw new Error('There is no place');
    const place = await compileFor(db, row, await loadDictionary(db), 'http://127.0.0.1:4180');
    const path = join(directory, 'feed.csv');
    let written: Written | undefined;
    // A whole row of every attribute, whatever the channel itself takes.
    place.setup.rulebook.exchange.rows = {
      rss: { prefix: 'x', namespace: 'urn:bench' },
      fields: place.setup.rulebook.attributes.map(({ key }) => ({ attribute: key, name: key })),
    };
    const build = async () => {
      written = await writeFeed({
        place,
        families: streamFamilies(client, row.id, await stockAt(db, row.id)),
        format: 'csv',
        meta: { title: 'bench', link: 'http://127.0.0.1', description: 'bench', currency: row.currency },
        path,
        today: new Date().toISOString().slice(0, 10),
        onSent: () => undefined,
        onLeftOut: () => undefined,
        onProgress: () => undefined,
      });
    };
    await build();
    const names = place.setup.rulebook.attributes.map((attribute) => `"${attribute.key}" text`);
    await client.query(`CREATE TEMP TABLE flat (${names.join(', ')})`);
    await pipeline(createReadStream(path), client.query(from('COPY flat FROM STDIN (FORMAT csv, HEADER)')));
    const copy = () =>
      pipeline(
        client.query(to('COPY flat TO STDOUT (FORMAT csv, HEADER)')),
        createWriteStream(join(directory, 'flat.csv')),
      );
    const { subject, baseline, ratio } = await compare(5, build, copy);
    const start = performance.now();
    await pipeline(createReadStream(path), createGzip({ level: 6 }), createWriteStream(`${path}.gz`));
    const gzip = Math.round(performance.now() - start);
    const figures = {
      feed_ms: subject,
      copy_ms: baseline,
      sent: written?.sent ?? 0,
      left_out: written?.leftOut ?? 0,
      megabytes: Math.round(((await stat(path)).size / 1e6) * 10) / 10,
      peak_memory_mb: Math.round(process.resourceUsage().maxRSS / 1024),
    };
    return [
      { name: `feed ${count}`, ratio, reach: '<= 4', holds: ratio <= 4, figures },
      {
        name: `feed gzip ${count}`,
        ratio: Number((gzip / baseline).toFixed(2)),
        reach: '-',
        holds: true,
        figures: { gzip_ms: gzip },
      },
    ];
  } finally {
    client.release();
    await db.$client.end();
    rmSync(directory, { recursive: true, force: true });
  }
}
