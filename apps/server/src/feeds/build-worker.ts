/** Worker thread of a run: its own connections, so that the request loop never waits for an evaluation. */
import { createReadStream, createWriteStream, renameSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { parentPort, workerData } from 'node:worker_threads';
import type { FeedFormat } from '@velvet-shelf/core/feeds';
import { loadDictionary } from '../catalog/dictionary.js';
import { compileFor, getPlace } from '../channels/setup.js';
import { openDatabase } from '../db/client.js';
import { copyIn, copyLine } from '../db/copy.js';
import { stockAt } from '../stock/serves.js';
import { todayText } from '../listings/evaluate.js';
import { streamFamilies } from './families.js';
import { type Written, writeFeed } from './write.js';

export interface BuildOrder {
  database: string;
  run: number;
  placeId: number;
  format: FeedFormat;
  path: string;
  address: string;
}
export type BuildNews = { progress: number } | { done: Written & { gzipBytes: number } };

const order = workerData as BuildOrder;
const tell = (news: BuildNews) => parentPort?.postMessage(news);
const db = openDatabase(order.database, 3);
try {
  const place = await getPlace(db, order.placeId);
  const compiled = await compileFor(db, place, await loadDictionary(db), order.address);
  const reader = await db.$client.connect();
  const sent: string[] = [];
  const left: string[] = [];
  const written = await writeFeed({
    place: compiled,
    families: streamFamilies(reader, order.placeId, await stockAt(db, order.placeId)),
    format: order.format,
    meta: {
      title: place.name,
      link: order.address,
      description: `${place.name}, ${place.country}`,
      currency: place.currency,
    },
    path: order.path,
    today: todayText(),
    onSent: (item) => sent.push(copyLine([order.run, item.listing, item.itemKey, item.hash, item.offset, item.length])),
    onLeftOut: (item) => left.push(copyLine([order.run, item.listing, item.reason, item.causeSet, item.words])),
    onProgress: (progress) => tell({ progress }),
  });
  await copyIn(reader, 'run_item', ['run_id', 'listing_id', 'item_key', 'row_hash', 'offset', 'length'], sent);
  await copyIn(reader, 'run_left_out', ['run_id', 'listing_id', 'reason', 'cause_set_id', 'words'], left);
  reader.release();
  const packed = `${order.path}.gz`;
  await pipeline(createReadStream(order.path), createGzip({ level: 6 }), createWriteStream(`${packed}.part`));
  renameSync(`${packed}.part`, packed);
  tell({ done: { ...written, gzipBytes: (await stat(packed)).size } });
} finally {
  await db.$client.end();
}
