/** Pictures made for a rule: smaller, square on a ground, in another format. Made once, and kept beside the picture. */
import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { z } from 'zod';
import type { Config } from '../config.js';
import { fromZod } from '../http/problem.js';
import { type Picture, pathOf, pictureFormats } from './take.js';

/** Longest sides that are made: any figure would be a way to fill the disk. */
export const renditionSides = [64, 128, 256, 512, 800, 1000, 1200, 1600, 2000];
const quality = 88;

const rule = z.object({
  side: z.coerce
    .number()
    .refine((side) => renditionSides.includes(side), `One of ${renditionSides.join(', ')}`)
    .optional(),
  /** Padded to a square with this ground. */
  square: z.enum(['white', 'clear']).optional(),
  format: z.enum(['jpeg', 'png', 'webp']).optional(),
});

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
  const { side, square, format = picture.format } = read.data;
  const content = picture.hash === '' ? `picture-${picture.id}` : picture.hash;
  if (side === undefined && square === undefined && format === picture.format)
    return { path: pathOf(config, picture), format, tag: content };
  const tag = `${content}-${side ?? 'full'}-${square ?? 'own'}`;
  const directory = join(config.files, 'renditions');
  const path = join(directory, `${tag}.${pictureFormats[format]?.extension ?? format}`);
  if (!existsSync(path)) {
    const known = underWay.get(path);
    const making = known ?? make(config, picture, { side, square, format, path, directory });
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
    path: string;
    directory: string;
  },
): Promise<void> {
  const { side, square, format, path, directory } = wish;
  await mkdir(directory, { recursive: true });
  const draft = `${path}.${process.pid}`;
  const longest = side ?? Math.max(picture.width, picture.height);
  const ground = square === 'clear' && format !== 'jpeg' ? { r: 255, g: 255, b: 255, alpha: 0 } : '#ffffff';
  try {
    const drawn = sharp(pathOf(config, picture)).resize(longest, longest, {
      fit: square ? 'contain' : 'inside',
      // Nothing is gained by blowing one up; a square may have to be larger than what stands in it.
      withoutEnlargement: square === undefined,
      background: ground,
    });
    const flat = format === 'jpeg' ? drawn.flatten({ background: '#ffffff' }) : drawn;
    await flat.toFormat(format as 'jpeg', format === 'png' ? {} : { quality }).toFile(draft);
    await rename(draft, path);
  } finally {
    await rm(draft, { force: true });
  }
}
