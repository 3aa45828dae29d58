/** Files as they come in: received whole or not at all, looked at, and read again as a stream of rows. */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Transform } from 'node:stream';
import { type Detection, detectEncoding, detectLayout, refuseNonText } from '@velvet-shelf/core/tabular';
import busboy from 'busboy';
import iconv from 'iconv-lite';
import type { Context } from 'koa';
import Papa from 'papaparse';
import type { Config } from '../config.js';
import type { Reading } from '../db/schema/index.js';
import { Problem, badRequest, unprocessable } from '../http/problem.js';

export interface ReceivedFile {
  name: string;
  path: string;
  bytes: number;
  sha256: string;
  fields: Record<string, string>;
}

/** Takes one file of a multipart request; on any fault nothing is kept. */
export async function receiveFile(ctx: Context, config: Config): Promise<ReceivedFile> {
  if (!ctx.is('multipart/form-data')) throw badRequest('Send the file as multipart/form-data, in a field named “file”');
  const directory = join(config.files, 'intake');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  const fields: Record<string, string> = {};
  let received: ReceivedFile | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      const parser = busboy({
        headers: ctx.req.headers,
        limits: { files: 1, fileSize: config.maxUpload },
        defParamCharset: 'utf8',
      });
      let writing: Promise<void> | undefined;
      parser.on('field', (name, value) => (fields[name] = value));
      parser.on('file', (_field, stream, info) => {
        const hash = createHash('sha256');
        let bytes = 0;
        stream.on('data', (chunk: Buffer) => {
          hash.update(chunk);
          bytes += chunk.length;
        });
        writing = pipeline(stream, createWriteStream(path)).then(() => {
          if (stream.truncated)
            throw new Problem(
              413,
              'The file is too large',
              `“${info.filename}” is larger than ${Math.floor(config.maxUpload / 1e6)} MB. Split it, or raise VELVET_MAX_UPLOAD.`,
            );
          received = { name: info.filename || 'file', path, bytes, sha256: hash.digest('hex'), fields };
        });
        writing.catch(reject);
      });
      parser.on('error', reject);
      parser.on('close', () => {
        if (writing) writing.then(resolve, reject);
        else resolve();
      });
      ctx.req.on('aborted', () => reject(badRequest('The upload was cut off')));
      ctx.req.pipe(parser);
    });
    if (!received) throw badRequest('There is no file in the request; send it in a field named “file”');
    return received;
  } catch (error) {
    ctx.req.unpipe();
    ctx.req.resume();
    await rm(path, { force: true });
    throw error;
  }
}

const sampleBytes = 256 * 1024;

/** Looks at the beginning of a file: what it is, or a Problem that says why it cannot be read. */
export async function detectFile(file: { path: string; name: string }): Promise<Detection> {
  const sample = await readSample(file.path);
  const kind = refuseNonText(sample);
  if (!kind.ok) throw unprocessable(`“${file.name}” cannot be read. ${kind.reason}. Nothing was changed.`);
  const encoding = detectEncoding(sample);
  const layout = detectLayout(iconv.decode(sample, encoding.value));
  return { encoding, ...layout };
}

async function readSample(path: string): Promise<Buffer> {
  const handle = await open(path);
  try {
    const buffer = Buffer.alloc(sampleBytes);
    const { bytesRead } = await handle.read(buffer, 0, sampleBytes, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

export interface FileRow {
  /** Counted from 1, the header included. */
  row: number;
  cells: string[];
}

/** Streams a file's rows in constant memory, from the row after the header; `header` gives the columns first. */
export async function* readRows(path: string, reading: Reading): AsyncGenerator<FileRow> {
  const source = createReadStream(path, { highWaterMark: 256 * 1024 });
  const decoded = source
    .pipe(iconv.decodeStream(reading.encoding))
    .pipe(new Transform({ transform: (chunk, _encoding, done) => done(null, chunk) }));
  const parser = Papa.parse(Papa.NODE_STREAM_INPUT, { delimiter: reading.delimiter, skipEmptyLines: false });
  const rows = decoded.pipe(parser);
  let row = 0;
  try {
    for await (const cells of rows as AsyncIterable<string[]>) {
      row++;
      if (cells.length === 1 && cells[0] === '') continue;
      yield { row, cells };
    }
  } finally {
    source.destroy();
  }
}

/** Column names and the first rows. */
export async function readHead(
  path: string,
  reading: Reading,
  count: number,
): Promise<{ columns: string[]; sample: FileRow[] }> {
  const sample: FileRow[] = [];
  let columns: string[] = [];
  for await (const row of readRows(path, reading)) {
    if (row.row < reading.headerRow) continue;
    if (row.row === reading.headerRow) columns = nameColumns(row.cells);
    else sample.push(row);
    if (sample.length >= count) break;
  }
  return { columns, sample };
}

/** Every column has a name of its own: empty ones are numbered, repeated ones too. */
function nameColumns(cells: string[]): string[] {
  const seen = new Map<string, number>();
  return cells.map((cell, i) => {
    const name = cell.trim() || `column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}
