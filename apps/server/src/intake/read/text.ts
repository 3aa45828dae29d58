/** Text of a file on disk, decoded, in chunks or as a whole. */
import { createReadStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { UnreadableFile } from '@velvet-shelf/core/tabular';
import iconv from 'iconv-lite';

/** A page or JSON-LD document is held in memory. */
const largestLinked = 50_000_000;

/** A page or document as a whole. */
export async function readLinked(path: string, encoding: string): Promise<string> {
  const { size } = await stat(path);
  if (size > largestLinked)
    throw new UnreadableFile(`A page or JSON-LD document may have ${largestLinked / 1e6} MB at most`);
  return iconv.decode(await readFile(path), encoding);
}

/** A file's text in chunks; closes the file when left early. */
export async function* textOf(path: string, encoding: string, most = Number.POSITIVE_INFINITY): AsyncGenerator<string> {
  const source = createReadStream(path, { highWaterMark: 256 * 1024 });
  const decoded = source.pipe(iconv.decodeStream(encoding));
  let read = 0;
  try {
    for await (const chunk of decoded as AsyncIterable<string>) {
      // No text has U+0000; files of some old programs are padded with it.
      yield chunk.includes('\0') ? chunk.replaceAll('\0', '') : chunk;
      read += chunk.length;
      if (read >= most) return;
    }
  } finally {
    source.destroy();
  }
}
