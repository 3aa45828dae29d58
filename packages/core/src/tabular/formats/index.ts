/** Every format that goods are read from; text is offered to them in this order. */
import { z } from 'zod';
import type { Detected } from '../reading.js';
import { delimited } from './delimited.js';
import { json } from './json.js';
import { jsonl } from './jsonl.js';
import { jsonld } from './jsonld.js';
import { xlsx } from './xlsx.js';
import { xml } from './xml.js';

const all = [xlsx, jsonld, xml, jsonl, json, delimited] as const;

export const readingSchema = z.discriminatedUnion('format', [
  xlsx.schema,
  jsonld.schema,
  xml.schema,
  jsonl.schema,
  json.schema,
  delimited.schema,
]);
/** How a file is read. */
export type Reading = z.infer<typeof readingSchema>;
export type Format = Reading['format'];

export const formats: readonly Format[] = all.map(({ name }) => name);
export const formatNames = Object.fromEntries(all.map(({ name, label }) => [name, label])) as Record<Format, string>;

/** Formats of text: a person may take a file for another of them. */
export const textFormats: readonly Format[] = all.flatMap((format) => ('claims' in format ? [format.name] : []));

/** The format of a text file, from the decoded beginning of it. */
export function detectTextFormat(sample: string): Detected<Format> {
  const start = sample.replace(/^\uFEFF/, '').trimStart();
  for (const format of all) {
    const why = 'claims' in format ? format.claims(start) : undefined;
    if (why !== undefined) return { value: format.name, why };
  }
  throw new Error('Delimited text takes whatever is left');
}
