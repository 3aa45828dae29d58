/** Files as they come in: received whole, or not at all. */
import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import busboy from 'busboy';
import type { Context } from 'koa';
import type { Config } from '../config.js';
import { Problem, badRequest } from './problem.js';

export interface ReceivedFile {
  name: string;
  path: string;
  bytes: number;
  sha256: string;
  fields: Record<string, string>;
}

/** Refuses a file where those that are kept have filled the space there is for them. */
async function expectRoom(directory: string, { quota }: Config): Promise<void> {
  let bytes = 0;
  for (const name of await readdir(directory)) {
    // One that is being thrown away at this moment takes no room.
    const found = await stat(join(directory, name)).catch(() => undefined);
    bytes += found?.size ?? 0;
  }
  refuseBeyond(quota, bytes);
}

/** Refuses one more where those that are kept have so many bytes. */
export function refuseBeyond(quota: number, bytes: number): void {
  if (bytes >= quota)
    throw new Problem(
      507,
      'There is no room for the file',
      `The files sent so far have ${(bytes / 1e9).toFixed(1)} GB, and ${(quota / 1e9).toFixed(1)} GB are kept at most. An administrator can raise VELVET_QUOTA.`,
    );
}

/** A form without a boundary is no form. */
function openParser(ctx: Context, { maxUpload }: Config): busboy.Busboy {
  try {
    return busboy({
      headers: ctx.req.headers,
      limits: { files: 1, fileSize: maxUpload, fields: 10, fieldSize: 1000, parts: 20 },
      defParamCharset: 'utf8',
    });
  } catch (error) {
    throw badRequest(`The form cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/** Takes one file of a multipart request into a folder of those kept; on any fault nothing is kept. */
export async function receiveFile(ctx: Context, config: Config, folder: string): Promise<ReceivedFile> {
  if (!ctx.is('multipart/form-data')) throw badRequest('Send the file as multipart/form-data, in a field named “file”');
  const directory = join(config.files, folder);
  await mkdir(directory, { recursive: true });
  await expectRoom(directory, config);
  const path = join(directory, randomUUID());
  const fields: Record<string, string> = {};
  let received: ReceivedFile | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      const parser = openParser(ctx, config);
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
