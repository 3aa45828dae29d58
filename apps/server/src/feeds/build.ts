/** The file of a run, out of one moment of the catalogue: no build ever sees half of a batch. */
import { createReadStream, createWriteStream, renameSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { sql, eq } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import { loadDictionary } from '../dictionary/dictionary.js';
import { compileFor } from '../channels/setup.js';
import { getPlace } from '../channels/places.js';
import { type Executor, onClient, first } from '../db/client.js';
import { copyIn, copyLine } from '../db/copy.js';
import * as schema from '../db/schema/index.js';
import { isAnyUnderWay } from '../intake/batches.js';
import type { JobContext } from '../jobs/define.js';
import type { RunInput } from './jobs.js';
import { todayText } from '../db/clock.js';
import { stockAt } from '../stock/serves.js';
import { streamFamilies } from './families.js';
import type { FeedRow } from './service.js';
import { type Written, writeFeed } from './write.js';
import * as tables from '../db/schema/index.js';

class Cancelled extends Error {}

/** Builds the file and notes what it holds and what it leaves out; undefined where somebody cancelled it. */
export async function buildFile(
  context: JobContext<RunInput>,
  feed: FeedRow,
  path: string,
): Promise<(Written & { gzipBytes: number }) | undefined> {
  const { db, services, input } = context;
  const { run } = input;
  const { address } = services.config;
  const reader = await db.$client.connect();
  let isWished = false;
  const watch = setInterval(() => {
    // Where the database is away the reader says so.
    context.cancelled().then(
      (wish) => (isWished ||= wish),
      () => undefined,
    );
  }, 500);
  try {
    const on = await openMoment(reader, () => isWished);
    const place = await getPlace(on, feed.placeId);
    const compiled = await compileFor(on, place, await loadDictionary(on), address);
    const total = await first(
      on
        .select({ n: sql<number>`coalesce(sum(${tables.placeTotal.listings}), 0)` })
        .from(tables.placeTotal)
        .where(eq(tables.placeTotal.placeId, feed.placeId)),
    );
    const sent: string[] = [];
    const left: string[] = [];
    const written = await writeFeed({
      place: compiled,
      families: streamFamilies(reader, feed.placeId, await stockAt(on, feed.placeId)),
      format: feed.format,
      meta: {
        title: place.name,
        link: address,
        description: `${place.name}, ${place.country}`,
        currency: place.currency,
      },
      path,
      today: todayText(),
      onSent: (item) => sent.push(copyLine([run, item.listing, item.itemKey, item.hash, item.offset, item.length])),
      onLeftOut: (item) => left.push(copyLine([run, item.listing, item.reason, item.causeSet, item.words])),
      onProgress: (done) => {
        if (isWished) throw new Cancelled();
        // Progress that is not told is told with the next.
        context.progress(done, total?.n ?? 0).catch(() => undefined);
      },
    });
    await reader.query('COMMIT');
    await onClient(db, async ({ client }) => {
      await copyIn(client, 'run_item', ['run_id', 'listing_id', 'item_key', 'row_hash', 'offset', 'length'], sent);
      await copyIn(client, 'run_left_out', ['run_id', 'listing_id', 'reason', 'cause_set_id', 'words'], left);
    });
    const packed = `${path}.gz`;
    await pipeline(createReadStream(path), createGzip({ level: 6 }), createWriteStream(`${packed}.part`));
    renameSync(`${packed}.part`, packed);
    return { ...written, gzipBytes: (await stat(packed)).size };
  } catch (error) {
    if (error instanceof Cancelled) return undefined;
    throw error;
  } finally {
    clearInterval(watch);
    // In the middle of a COPY or of a transaction: the connection goes with it.
    reader.release(true);
  }
}

/** A moment at which no batch is being applied or taken back, kept for all that is read on this connection. */
async function openMoment(reader: pg.PoolClient, isWished: () => boolean): Promise<Executor> {
  const on = drizzle(reader, { schema });
  for (;;) {
    if (isWished()) throw new Cancelled();
    await reader.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    if (!(await isAnyUnderWay(on))) return on;
    await reader.query('ROLLBACK');
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}
