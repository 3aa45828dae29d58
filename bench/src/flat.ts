/** A place with every value its channel could be given, and the finished rows of its goods as a flat typed table. */
import { createReadStream, createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { CompiledPlace } from '@velvet-shelf/core/listings';
import { compileFor } from '@velvet-shelf/server/channels/setup';
import { listPlaces } from '@velvet-shelf/server/channels/places';
import { type Database, openDatabase } from '@velvet-shelf/server/db/client';
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import { streamFamilies } from '@velvet-shelf/server/feeds/families';
import { type Written, writeFeed } from '@velvet-shelf/server/feeds/write';
import { stockAt } from '@velvet-shelf/server/stock/serves';
import { from, to } from 'pg-copy-streams';

export interface Flat {
  db: Database;
  place: CompiledPlace;
  placeId: number;
  /** Where the file of all rows is. */
  path: string;
  /** Writes it from the catalog tables, evaluated and checked. */
  build: () => Promise<Written>;
  /** The baseline: the finished rows as a file, out of the flat table. */
  copy: () => Promise<void>;
}

/** Raises the flat table, and takes all down when the work has ended. */
export async function onFlat<T>(work: (flat: Flat) => Promise<T>): Promise<T> {
  const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 4 });
  const client = await db.$client.connect();
  const directory = mkdtempSync(join(tmpdir(), 'velvet-bench-'));
  try {
    await client.query('VACUUM ANALYZE');
    const [row] = await listPlaces(db);
    if (!row) throw new Error('There is no place');
    const place = await compileFor(db, row, await loadDictionary(db), 'http://127.0.0.1:4180');
    const path = join(directory, 'feed.csv');
    // A whole row of every attribute, whatever the channel itself takes.
    place.setup.rulebook.exchange.rows = {
      rss: { prefix: 'x', namespace: 'urn:bench' },
      fields: place.setup.rulebook.attributes.map(({ key }) => ({ attribute: key, name: key })),
    };
    const build = async () =>
      writeFeed({
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
    await build();
    const names = place.setup.rulebook.attributes.map((attribute) => `"${attribute.key}" text`);
    await client.query(`CREATE TEMP TABLE flat (${names.join(', ')})`);
    await pipeline(createReadStream(path), client.query(from('COPY flat FROM STDIN (FORMAT csv, HEADER)')));
    const copy = () =>
      pipeline(
        client.query(to('COPY flat TO STDOUT (FORMAT csv, HEADER)')),
        createWriteStream(join(directory, 'flat.csv')),
      );
    return await work({ db, place, placeId: row.id, path, build, copy });
  } finally {
    client.release();
    await db.$client.end();
    rmSync(directory, { recursive: true, force: true });
  }
}
