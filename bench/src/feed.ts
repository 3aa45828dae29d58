/** A whole CSV out of the catalog tables, evaluated and checked, against COPY of a flat typed table of the finished rows. */
import { createReadStream, createWriteStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { onFlat } from './flat.js';
import { type BenchLine, compare } from './timing.js';

export const benchFeed = (count: number): Promise<BenchLine[]> =>
  onFlat(async ({ path, build, copy }) => {
    const written = await build();
    const { subject, baseline, ratio } = await compare(5, build, copy);
    const start = performance.now();
    await pipeline(createReadStream(path), createGzip({ level: 6 }), createWriteStream(`${path}.gz`));
    const gzip = Math.round(performance.now() - start);
    const figures = {
      feed_ms: subject,
      copy_ms: baseline,
      sent: written.sent,
      left_out: written.leftOut,
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
  });
