/** Pictures made for a rule: smaller, square on a ground, in another format. Made once, and kept beside the picture. */
import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { renditionSchema } from '@velvet-shelf/core/fills';
import sharp from 'sharp';
import { z } from 'zod';
import type { Config } from '../config.js';
import { fromZod } from '../http/problem.js';
import { type Picture, pathOf, pictureFormats } from './take.js';

/** Tried one after the other until the picture is as light as it is to be; it is never made smaller for that, for its size was promised. */
const qualities = [88, 78, 68, 58, 48, 38, 28];

const { side, bytes, ...words } = renditionSchema.shape;
/** As it stands in the question of an address. */
const rule = z.object({ ...words, side: fromText(side), bytes: fromText(bytes) });

function fromText<Schema extends z.ZodType<number | undefined, number | undefined>>(schema: Schema) {
  return z
    .string()
    .optional()
    .transform((text) => (text === undefined ? undefined : Number(text)))
    .pipe(schema);
}

export interface Rendition {
  path: string;
  format: string;
  /** Tells it from every other. */
  tag: string;
}

/** Under way in this process: asked for twice, it is made once. */
const underWay = new Map<string, Promise<void>>();

/** The picture as the question of its address wants it; itself where that asks for nothing. */
export async function renditionOf(config: Config, picture: Picture, query: unknown): Promise<Rendition> {
  const read = rule.safeParse(query);
  if (!read.success) throw fromZod(read.error, 'query');
  const { side, square, format = picture.format, bytes } = read.data;
  const content = picture.hash === '' ? `picture-${picture.id}` : picture.hash;
  const isLight = bytes === undefined || picture.bytes <= bytes;
  if (side === undefined && square === undefined && format === picture.format && isLight)
    return { path: pathOf(config, picture), format, tag: content };
  const tag = `${content}-${side ?? 'full'}-${square ?? 'own'}${bytes === undefined ? '' : `-${bytes}`}`;
  const directory = join(config.files, 'renditions');
  const path = join(directory, `${tag}.${pictureFormats[format]?.extension ?? format}`);
  if (!existsSync(path)) {
    const known = underWay.get(path);
    const making = known ?? make(config, picture, { side, square, format, bytes, path, directory });
    if (!known) underWay.set(path, making);
    await making.finally(() => underWay.delete(path));
  }
  return { path, format, tag: `${tag}-${format}` };
}

async function make(
  config: Config,
  picture: Picture,
  wish: {
    side: number | undefined;
    square: 'white' | 'clear' | undefined;
    format: string;
    bytes: number | undefined;
    path: string;
    directory: string;
  },
): Promise<void> {
  const { side, square, format, bytes, path, directory } = wish;
  await mkdir(directory, { recursive: true });
  const draft = `${path}.${process.pid}`;
  const longest = side ?? Math.max(picture.width, picture.height);
  const ground = square === 'clear' && format !== 'jpeg' ? { r: 255, g: 255, b: 255, alpha: 0 } : '#ffffff';
  const draw = async (quality: number): Promise<number> => {
    const drawn = sharp(pathOf(config, picture)).resize(longest, longest, {
      fit: square ? 'contain' : 'inside',
      // Nothing is gained by blowing one up; a square may have to be larger than what stands in it.
      withoutEnlargement: square === undefined,
      background: ground,
    });
    const flat = format === 'jpeg' ? drawn.flatten({ background: '#ffffff' }) : drawn;
    const written = await flat
      .toFormat(format as 'jpeg', format === 'png' && quality === qualities[0] ? {} : { quality })
      .toFile(draft);
    return written.size;
  };
  try {
    for (const quality of qualities) if ((await draw(quality)) <= (bytes ?? Number.POSITIVE_INFINITY)) break;
    await rename(draft, path);
  } finally {
    await rm(draft, { force: true });
  }
}
