/** A picture as it comes: known by its content, measured, made fit to go out, and there for whatever goods name it. */
import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { copyFile, mkdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { groundOf } from '@velvet-shelf/core/catalog';
import { textKey } from '@velvet-shelf/core/values';
import { eq } from 'drizzle-orm';
import sharp, { type Metadata } from 'sharp';
import type { Config } from '../config.js';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { cleanName, underFreeName } from '../files/named.js';
import { badRequest } from '../http/problem.js';

/** What is decoded: a picture of more is an attack, or no picture of goods. */
const mostPixels = 120_000_000;
/** Of the copy that is measured, in pixels. */
const measured = 256;
/** Of what is written anew. */
const quality = 92;

/** Formats of pictures, as the decoder names them, with what files and answers call them (RFC 9110 media types). */
export const pictureFormats: Readonly<Record<string, { extension: string; type: string }>> = {
  jpeg: { extension: 'jpg', type: 'image/jpeg' },
  png: { extension: 'png', type: 'image/png' },
  webp: { extension: 'webp', type: 'image/webp' },
  gif: { extension: 'gif', type: 'image/gif' },
  tiff: { extension: 'tif', type: 'image/tiff' },
};

export type Picture = typeof tables.media.$inferSelect;
type Measures = Pick<Picture, 'bytes' | 'width' | 'height' | 'plain' | 'blank'>;

/**
 * Where what goes out stands, by content: the names of goods are nobody's file names. One that came before its content was
 * known stands by its name.
 */
export const pathOf = (
  { files }: Pick<Config, 'files'>,
  { hash, format, name }: Pick<Picture, 'hash' | 'format' | 'name'>,
): string =>
  hash === ''
    ? join(files, 'media', basename(name))
    : join(files, 'pictures', `${hash}.${pictureFormats[format]?.extension ?? 'bin'}`);

/**
 * Takes the file at a path as a picture of this name. Another picture of the name is not written over: this one goes by the
 * name with a figure. Refuses whatever is none, whatever its name says.
 */
export async function takePicture(
  on: Executor,
  config: Pick<Config, 'files'>,
  { path, name, sha256 }: { path: string; name: string; sha256?: string },
): Promise<Picture> {
  const hash =
    sha256 ??
    createHash('sha256')
      .update(await readFile(path))
      .digest('hex');
  const metadata = await readHead(path, name);
  const { format } = metadata;
  await mkdir(join(config.files, 'pictures'), { recursive: true });
  const kept = pathOf(config, { hash, format, name });
  const changes = changesOf(metadata);
  const measures = await fit(path, kept, { format, isChanged: changes.length > 0 }).catch((error: unknown) => {
    throw badRequest(`“${name}” cannot be read as a picture: ${sayFault(error)}`);
  });
  return underFreeName(nameAs(name, format), hash, {
    insert: async (free) => {
      const row = { name: free, key: textKey(free), hash, format, changes, ...measures };
      return first(on.insert(tables.media).values(row).onConflictDoNothing().returning());
    },
    held: (free) => first(on.select().from(tables.media).where(eq(tables.media.name, free))),
  });
}

/** Writes what goes out to its place, whole or not at all, and measures it. */
async function fit(
  path: string,
  kept: string,
  { format, isChanged }: { format: string; isChanged: boolean },
): Promise<Measures> {
  const draft = `${kept}.${randomUUID()}`;
  try {
    if (isChanged)
      await sharp(path, { limitInputPixels: mostPixels })
        .rotate()
        .toColourspace('srgb')
        .toFormat(format as 'jpeg', format === 'jpeg' || format === 'webp' ? { quality } : {})
        .toFile(draft);
    else await copyFile(path, draft);
    const measures = await measure(draft);
    if (!existsSync(kept)) await rename(draft, kept);
    return measures;
  } finally {
    await rm(draft, { force: true });
  }
}

/** What is no picture, what draws itself (SVG) and what would be too large to decode is refused by its content. */
async function readHead(path: string, name: string): Promise<Metadata & { format: string }> {
  const metadata = await sharp(path, { limitInputPixels: mostPixels })
    .metadata()
    .catch((error: unknown) => {
      throw badRequest(`“${name}” is no picture that can be read: ${sayFault(error)}`);
    });
  if (!Object.hasOwn(pictureFormats, metadata.format))
    throw badRequest(
      `“${name}” is ${metadata.format.toUpperCase()}: send it as ${Object.keys(pictureFormats).join(', ').toUpperCase()}`,
    );
  if (metadata.width * metadata.height > mostPixels)
    throw badRequest(`“${name}” has more than ${mostPixels / 1e6} million pixels: send it smaller`);
  return metadata;
}

const sayFault = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error)).split('\n')[0]?.slice(0, 120) ?? '';

/** What has to be done before it can go out, in words; nothing where it goes out as it came. */
function changesOf({ orientation, space, exif, xmp, iptc, format }: Metadata): string[] {
  return [
    orientation !== undefined && orientation !== 1 ? 'turned upright' : undefined,
    space === 'cmyk' ? 'colours of print made those of screens' : undefined,
    (exif ?? xmp ?? iptc) && format !== 'gif' ? 'what the camera wrote into it taken out' : undefined,
  ].flatMap((words) => words ?? []);
}

async function measure(path: string): Promise<Measures> {
  const { width, height } = await sharp(path, { limitInputPixels: mostPixels }).metadata();
  const { data, info } = await sharp(path, { limitInputPixels: mostPixels })
    .resize(measured, measured, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { size } = await stat(path);
  return {
    bytes: size,
    width,
    height,
    ...groundOf({ data, width: info.width, height: info.height, channels: info.channels }),
  };
}

/** The end of a name as its content has it. */
function nameAs(name: string, format: string): { stem: string; end: string } {
  const { stem, end } = cleanName(name);
  const extension = pictureFormats[format]?.extension ?? format;
  const isSame = end.toLowerCase() === `.${extension}` || (format === 'jpeg' && /^\.jpe?g$/i.test(end));
  return { stem: stem === '' ? 'picture' : stem, end: isSame ? end : `.${extension}` };
}
