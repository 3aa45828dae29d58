/** A file as it comes: known by its content, and there under a name of its own. */
import { existsSync } from 'node:fs';
import { copyFile, mkdir, open, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { textKey } from '@velvet-shelf/core/values';
import { eq } from 'drizzle-orm';
import type { Config } from '../config.js';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { badRequest } from '../http/problem.js';
import { cleanName, underFreeName } from './named.js';

const { storedFile } = tables;

export type StoredFile = typeof storedFile.$inferSelect;

/** What a file may be handed out as, by what its content begins with; all else goes out as bytes that nothing opens by itself. */
const types: readonly { begins: string; type: string }[] = [
  { begins: '%PDF-', type: 'application/pdf' },
  { begins: 'PK\u0003\u0004', type: 'application/zip' },
];
const unknownType = 'application/octet-stream';

/** Where it stands: by content, for the names of goods are nobody’s file names. */
export const fileAt = ({ files }: Pick<Config, 'files'>, { hash }: Pick<StoredFile, 'hash'>): string =>
  join(files, 'documents', hash);

/** Takes the file at a path under this name; another file of the name is not written over: this one goes by the name with a figure. */
export async function takeFile(
  on: Executor,
  config: Pick<Config, 'files'>,
  { path, name, sha256 }: { path: string; name: string; sha256: string },
): Promise<StoredFile> {
  const { size } = await stat(path);
  if (size === 0) throw badRequest(`“${name}” is empty`);
  const type = await typeOf(path);
  const kept = fileAt(config, { hash: sha256 });
  if (!existsSync(kept)) {
    await mkdir(join(config.files, 'documents'), { recursive: true });
    const draft = `${kept}.${randomUUID()}`;
    try {
      await copyFile(path, draft);
      await rename(draft, kept);
    } finally {
      await rm(draft, { force: true });
    }
  }
  const { stem, end } = cleanName(name);
  return underFreeName({ stem: stem === '' ? 'file' : stem, end }, sha256, {
    insert: async (free) => {
      const row = { name: free, key: textKey(free), hash: sha256, bytes: size, type };
      return first(on.insert(storedFile).values(row).onConflictDoNothing().returning());
    },
    held: (free) => first(on.select().from(storedFile).where(eq(storedFile.name, free))),
  });
}

async function typeOf(path: string): Promise<string> {
  const file = await open(path);
  try {
    const head = Buffer.alloc(8);
    await file.read(head, 0, head.length, 0);
    return types.find(({ begins }) => head.toString('latin1').startsWith(begins))?.type ?? unknownType;
  } finally {
    await file.close();
  }
}
