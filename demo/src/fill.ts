/** Fills an empty database with the demo: set-up, pictures, and the own sheet through the real intake. */
import { createHash } from 'node:crypto';
import { copyFile, mkdir, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Config } from '@velvet-shelf/server/config';
import { type Database, queryOne } from '@velvet-shelf/server/db/client';
import { readyPartitions } from '@velvet-shelf/server/history/partitions';
import type { Services, User } from '@velvet-shelf/server/http/route';
import { applyTried, dryRun } from '@velvet-shelf/server/intake/service';
import { showBatch } from '@velvet-shelf/server/intake/show';
import { correctBatch, readBatch } from '@velvet-shelf/server/intake/read/take-in';
import { detectSource } from '@velvet-shelf/server/intake/read/detect';
import { readColumns, readRows } from '@velvet-shelf/server/intake/read/source';
import { takeFile } from '@velvet-shelf/server/files/take';
import { takePicture } from '@velvet-shelf/server/pictures/take';
import { registerRooms } from '@velvet-shelf/server/rooms';
import { drain } from '@velvet-shelf/server/listings/drain';
import { sql } from 'drizzle-orm';
import { addChannels } from './channels.js';
import { writeGenerated } from './generate.js';
import { drawPictures } from './pictures.js';
import { drawSheet } from './sheets.js';
import { demoFiles, writeSetup } from './setup.js';

/** Read in already; the pottery and the price list are left for a person to drop. */
const shipped = [
  ['mosswick-own.tsv', 'mosswick'],
  ['lumenloam-lighting.xlsx', 'lumenloam'],
  ['kestrelgate-seeds.json', 'kestrelgate'],
] as const;

/** Files that the own sheet names; another one it names has not come. */
const sheets = [['sds-green-tonic-en.pdf', 'Green Tonic Liquid Feed: safety data sheet']] as const;

const sizes: Record<string, number> = { '1k': 1000, '10k': 10_000, '100k': 100_000 };

interface Wanted {
  /** Where the simulated channels are. */
  standins: string;
  /** Which of the scenario's: set-up alone, our own sheet, or what suppliers sent too. */
  goods: 'none' | 'own' | 'all';
  /** Generated goods in place of those of the scenario. */
  size: string | undefined;
}

export async function fill(database: Database, config: Config, { standins, goods, size }: Wanted): Promise<void> {
  registerRooms();
  process.stdout.write('loading the demo\n');
  await readyPartitions(database, new Date());
  const { owner } = await writeSetup(database, standins);
  const directory = join(config.files, 'drawn');
  const names = await drawPictures(await pictureNames(), directory);
  for (let from = 0; from < names.length; from += 16)
    await Promise.all(
      names.slice(from, from + 16).map((name) => takePicture(database, config, { path: join(directory, name), name })),
    );
  await rm(directory, { recursive: true });
  for (const [name, title] of sheets) {
    const path = join(config.files, name);
    const content = drawSheet(title);
    await writeFile(path, content);
    const sha256 = createHash('sha256').update(content).digest('hex');
    await takeFile(database, config, { path, name, sha256 });
    await rm(path);
  }
  const services: Services = { db: database, config, notify: () => undefined };
  const user = await queryOne<User>(
    database,
    sql`SELECT id, email, name, role, last_visit AS "lastVisit" FROM user_account WHERE id = ${owner}`,
  );
  if (!user || goods === 'none') return;
  if (size) {
    const count = sizes[size];
    if (count === undefined) throw new Error(`There is no size “${size}”; choose ${Object.keys(sizes).join(', ')}`);
    const path = join(config.files, 'intake', 'generated.tsv');
    await mkdir(join(config.files, 'intake'), { recursive: true });
    await writeGenerated(path, count);
    await bringIn(services, user, path, 'mosswick-generated.tsv');
  } else
    for (const [file, supplier] of goods === 'own' ? shipped.slice(0, 1) : shipped) {
      const path = join(config.files, 'intake', file);
      await mkdir(join(config.files, 'intake'), { recursive: true });
      await copyFile(join(demoFiles, 'intake', file), path);
      await bringIn(services, user, path, file, supplier);
    }
  if (goods === 'all' && size === undefined) {
    await addChannels(services, user, standins);
    await drain(database, config.address, Number.POSITIVE_INFINITY);
  }
}

async function bringIn(
  services: Services,
  user: User,
  path: string,
  name: string,
  supplier = 'mosswick',
): Promise<void> {
  const found = await queryOne<{ id: number }>(services.db, sql`SELECT id FROM supplier WHERE key = ${supplier}`);
  const { size } = await stat(path);
  const id = await readBatch(services, {
    name,
    path,
    bytes: size,
    sha256: '',
    fields: { supplier: String(found?.id ?? '') },
  });
  if (supplier !== 'mosswick') await takeWords(services, id);
  await dryRun(services, id);
  await reached(services.db, id, 'tried');
  await applyTried(services, id, user);
  await reached(services.db, id, 'applied');
  await drain(services.db, services.config.address, Number.POSITIVE_INFINITY);
}

/** Takes every word that our own goods tell, as a person would with one click a column. */
async function takeWords(services: Services, id: number): Promise<void> {
  const { map, translations } = await showBatch(services, id);
  const next = map.map((entry) => {
    const list = translations.find(({ column }) => column === entry.column);
    const told = list?.values.flatMap(({ value, learnt }) => (learnt ? [[value, learnt.ours] as const] : [])) ?? [];
    if (entry.target.to !== 'attribute' || told.length === 0) return entry;
    return { ...entry, target: { ...entry.target, values: { ...entry.target.values, ...Object.fromEntries(told) } } };
  });
  await correctBatch(services, id, { map: next });
}

async function reached(database: Database, id: number, wanted: string): Promise<void> {
  for (;;) {
    const batch = await queryOne<{ state: string }>(database, sql`SELECT state FROM batch WHERE id = ${id}`);
    if (batch?.state === wanted) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** Every picture the demo's files name, in whatever column. */
async function pictureNames(): Promise<string[]> {
  const names = new Set<string>();
  for (const file of [
    'mosswick-own.tsv',
    'brackwater-pottery.csv',
    'lumenloam-lighting.xlsx',
    'kestrelgate-seeds.json',
  ]) {
    const path = join(demoFiles, 'intake', file);
    const { reading } = await detectSource(path);
    for await (const { cells } of readRows(path, reading, await readColumns(path, reading)))
      for (const cell of cells)
        if (cell.length < 200)
          for (const name of cell.split(','))
            if (/^[\w.-]+\.(jpe?g|png|webp)$/.test(name.trim())) names.add(name.trim());
  }
  return [...names].sort();
}
