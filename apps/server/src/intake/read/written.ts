/** Rows that the application writes itself, read in like a file that somebody sent. */
import { randomUUID } from 'node:crypto';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { GivenKind } from '../../db/schema/index.js';
import type { Services } from '../../http/route.js';
import { apart } from '../../jobs/aside.js';
import * as jobs from '../jobs.js';

/** Rows of a supplier's, some of what there is, as a batch; answers its number. */
export async function takeInRows(
  services: Services,
  { name, rows, supplier, kind }: { name: string; rows: Record<string, string>[]; supplier: number; kind: GivenKind },
): Promise<number> {
  const directory = join(services.config.files, 'intake');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  const text = JSON.stringify(rows);
  await writeFile(path, text);
  return apart(jobs.readFile, services, {
    file: { name, path, bytes: Buffer.byteLength(text), sha256: '', fields: { supplier: String(supplier) } },
    how: { kind, scope: 'some' },
  });
}
