/** All listings of a place evaluated and stored, as when it is new, against COPY of the finished rows. */
import { markPlace } from '@velvet-shelf/server/history/dirty';
import { drain } from '@velvet-shelf/server/listings/drain';
import { sql } from 'drizzle-orm';
import { onFlat } from './flat.js';
import { type BenchLine, median, time } from './timing.js';

const runs = 3;
const reach = 8;

export const benchListings = (count: number): Promise<BenchLine[]> =>
  onFlat(async ({ db, placeId, copy }) => {
    const taken: { stored: number[]; copied: number[] } = { stored: [], copied: [] };
    for (let run = 0; run < runs; run++) {
      await db.execute(sql`DELETE FROM listing WHERE place_id = ${placeId}`);
      await markPlace(db, placeId);
      taken.stored.push(await time(() => drain(db, 'http://127.0.0.1:4180', Number.POSITIVE_INFINITY)));
      taken.copied.push(await time(copy));
    }
    const [stored, copied] = [median(taken.stored), median(taken.copied)];
    const ratio = Number((stored / copied).toFixed(2));
    const { rows } = await db.execute(sql`SELECT count(*)::int AS n FROM listing WHERE place_id = ${placeId}`);
    const figures = { stored_ms: Math.round(stored), copy_ms: Math.round(copied), listings: Number(rows[0]?.n) };
    return [{ name: `listings ${count}`, ratio, reach: `<= ${reach}`, holds: ratio <= reach, figures }];
  });
