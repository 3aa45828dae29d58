/** Builds a feed file: every family evaluated and checked anew, written aside, renamed when whole. */
import { createHash, hash } from 'node:crypto';
import { closeSync, openSync, renameSync, writeSync } from 'node:fs';
import { type FeedFormat, type FeedMeta, compileWriter } from '@velvet-shelf/core/feeds';
import { type CompiledPlace, itemKeyOf } from '@velvet-shelf/core/listings';
import type { ListedFamily } from './families.js';

export interface SentItem {
  listing: number;
  itemKey: string;
  hash: string;
  /** Bytes from the start of the file. */
  offset: number;
  length: number;
}

export interface LeftOut {
  listing: number;
  reason: 'blocked' | 'not for this channel';
  causeSet: number | null;
  words: string | null;
}

export interface Written {
  selected: number;
  sent: number;
  leftOut: number;
  bytes: number;
  etag: string;
}

export interface WriteOptions {
  place: CompiledPlace;
  families: AsyncIterable<ListedFamily>;
  format: FeedFormat;
  meta: FeedMeta;
  path: string;
  today: string;
  onSent(item: SentItem): void;
  onLeftOut(item: LeftOut): void;
  /** Called now and then with how many listings are done. */
  onProgress(done: number): void;
}

const flushAt = 1 << 20;

export async function writeFeed(options: WriteOptions): Promise<Written> {
  const { place, today } = options;
  const writer = compileWriter(options.format, place.setup.rulebook, options.meta);
  const aside = `${options.path}.part`;
  const file = openSync(aside, 'w');
  const whole = createHash('sha256');
  const counts: Written = { selected: 0, sent: 0, leftOut: 0, bytes: 0, etag: '' };
  let pending = '';
  const put = (text: string) => {
    pending += text;
    if (pending.length >= flushAt) flush();
  };
  const flush = () => {
    const bytes = Buffer.from(pending, 'utf8');
    whole.update(bytes);
    writeSync(file, bytes);
    pending = '';
  };
  try {
    put(writer.head);
    counts.bytes = Buffer.byteLength(writer.head);
    for await (const { family, listings } of options.families) {
      const results = place.evaluate(family, today);
      for (let i = 0; i < results.length; i++) {
        const [result, listing] = [results[i], listings[i]];
        // Goods that have left are no part of the selection; that they were in the last file the difference says.
        if (!result || !listing || result.standing === 'left') continue;
        counts.selected++;
        const key = itemKeyOf(result, place.setup.rulebook);
        if (result.readiness !== 'ready' || listing.collectiveBlocks || key === undefined) {
          counts.leftOut++;
          const reason = result.readiness === 'not for this channel' ? 'not for this channel' : 'blocked';
          options.onLeftOut({ listing: listing.id, reason, causeSet: listing.causeSet, words: result.notFor ?? null });
          continue;
        }
        const row = writer.item(result.values);
        const length = Buffer.byteLength(row);
        options.onSent({
          listing: listing.id,
          itemKey: key,
          hash: hash('md5', row, 'base64url'),
          offset: counts.bytes,
          length,
        });
        put(row);
        counts.bytes += length;
        counts.sent++;
      }
      if (counts.selected % 512 < results.length) options.onProgress(counts.selected);
    }
    put(writer.foot);
    counts.bytes += Buffer.byteLength(writer.foot);
    flush();
  } finally {
    closeSync(file);
  }
  renameSync(aside, options.path);
  counts.etag = whole.digest('base64url').slice(0, 32);
  options.onProgress(counts.selected);
  return counts;
}
