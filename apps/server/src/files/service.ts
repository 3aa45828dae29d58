/** Files as people look at them: which there are, who names them, which have not come; brought in and thrown away. */
import { rm } from 'node:fs/promises';
import type { StoredFileAnswer } from '@velvet-shelf/contract';
import { asc, eq, sql } from 'drizzle-orm';
import { type Database, type Executor, first, iso } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { notFound } from '../http/problem.js';
import { refuseBeyond } from '../http/receive.js';
import type { Services } from '../http/route.js';
import {
  type Named,
  type NamedQuery,
  countNamed,
  fetchNamed,
  isAskedFor,
  listMissing,
  namedBy,
  oneOf,
  pageOf,
  removeNamed,
  usedBy,
} from './named.js';
import { fileAt, takeFile } from './take.js';

const { storedFile } = tables;

/** Of one file, in bytes, where it is fetched. */
const largest = 100_000_000;

const namedFiles = async (on: Executor): Promise<Named> => namedBy(storedFile, 'file', await loadDictionary(on));

const columns = (named: Named) => ({
  id: storedFile.id,
  name: storedFile.name,
  type: storedFile.type,
  bytes: storedFile.bytes,
  at: storedFile.at,
  used: usedBy(named),
  product: oneOf(named),
});

const shown = <Row extends { at: string }>(row: Row): Row => ({ ...row, at: iso(row.at) });

export async function listFiles(db: Database, query: NamedQuery) {
  const named = await namedFiles(db);
  const rows = await db
    .select(columns(named))
    .from(storedFile)
    .where(isAskedFor(named, query))
    .orderBy(asc(storedFile.name))
    .limit(query.limit + 1);
  return { ...pageOf(rows.map(shown), query), ...(await countNamed(db, named)) };
}

export const listMissingFiles = async (db: Database) => listMissing(db, await namedFiles(db));

async function fileOf(db: Executor, id: number): Promise<StoredFileAnswer> {
  const row = await first(
    db
      .select(columns(await namedFiles(db)))
      .from(storedFile)
      .where(eq(storedFile.id, id)),
  );
  if (!row) throw notFound(`file ${id}`);
  return shown(row);
}

export async function keepFile(
  { db, config }: Services,
  file: { path: string; name: string; sha256: string },
): Promise<StoredFileAnswer> {
  try {
    const held = await first(
      db.select({ bytes: sql<number>`coalesce(sum(${storedFile.bytes}), 0)::float8` }).from(storedFile),
    );
    refuseBeyond(config.quota, held?.bytes ?? 0);
    const taken = await db.transaction((tx) => takeFile(tx, config, file));
    return await fileOf(db, taken.id);
  } finally {
    await rm(file.path, { force: true });
  }
}

export const fetchFile = (services: Services, address: string): Promise<StoredFileAnswer> =>
  fetchNamed(services, address, { what: 'file', limit: largest }, (file) => keepFile(services, file));

/** Throws one away that no goods name; its content goes with the last name it has. */
export async function removeFile({ db, config }: Services, id: number): Promise<void> {
  const last = await db.transaction(async (tx) => {
    const held = await first(tx.select().from(storedFile).where(eq(storedFile.id, id)).for('update'));
    if (!held) throw notFound(`file ${id}`);
    const { used } = await fileOf(tx, id);
    return (await removeNamed(tx, await namedFiles(tx), { ...held, used }, 'file')) ? held : undefined;
  });
  if (last) await rm(fileAt(config, last), { force: true });
}
