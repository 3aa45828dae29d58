/** How a file is read: found out from its bytes, shown with what decided it, and open to correction. */
import { z } from 'zod';

export const encodings = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  ...(['1250', '1251', '1252', '1253', '1254', '1255', '1256', '1257', '1258'] as const).map(
    (page) => `windows-${page}` as const,
  ),
  ...(['1', '2', '3', '4', '5', '6', '7', '8', '9', '10', '11', '13', '14', '15', '16'] as const).map(
    (part) => `iso-8859-${part}` as const,
  ),
  'koi8-r',
  'koi8-u',
  'macroman',
  'cp437',
  'cp850',
  'cp852',
  'cp866',
] as const;
export type Encoding = (typeof encodings)[number];
export const delimiters = [';', '\t', ',', '|'] as const;
export type Delimiter = (typeof delimiters)[number];

const style = {
  decimal: z.enum(['.', ',']),
  dateOrder: z.enum(['dmy', 'mdy', 'ymd']),
  /** What amounts are in that name no currency themselves (ISO 4217); said once by a person. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
};
const encoding = z.enum(encodings);
const headerRow = z.number().int().min(1).max(1000);
/** Keys from the root of the document to the list of items, joined by dots; empty = the root itself. */
const itemPath = z.string().max(1000);
/** Keys from an item to the list of its variants; null = an item is one row. */
const variantPath = z.string().max(1000).nullable();

export const readingSchema = z.discriminatedUnion('format', [
  z.strictObject({ format: z.literal('delimited'), encoding, delimiter: z.enum(delimiters), headerRow, ...style }),
  z.strictObject({
    format: z.literal('xlsx'),
    /** `merged`: cells are merged down over rows, so that the sheet has to be gone through once before. */
    sheets: z
      .array(z.strictObject({ name: z.string(), headerRow, read: z.boolean(), merged: z.boolean().optional() }))
      .min(1),
    ...style,
  }),
  z.strictObject({ format: z.literal('json'), encoding, itemPath, variantPath, ...style }),
  z.strictObject({ format: z.literal('jsonl'), encoding, variantPath, ...style }),
  z.strictObject({
    format: z.literal('xml'),
    encoding,
    itemPath,
    variantPath,
    /** Local names that elements of several namespaces have in one item: they are kept apart by their prefix. */
    apart: z.array(z.string().max(200)).max(200).optional(),
    ...style,
  }),
  /** schema.org JSON-LD, alone or out of the script elements of an HTML page. */
  z.strictObject({ format: z.literal('jsonld'), encoding, variantPath, ...style }),
]);
export type Reading = z.infer<typeof readingSchema>;
export type Format = Reading['format'];

export const formatNames: Record<Format, string> = {
  delimited: 'Delimited text (CSV, TSV)',
  xlsx: 'XLSX workbook',
  json: 'JSON',
  jsonl: 'JSON Lines',
  xml: 'XML',
  jsonld: 'schema.org JSON-LD',
};

const pathChoice = z.object({ path: z.string(), objects: z.number() });

export const formats = ['delimited', 'xlsx', 'json', 'jsonl', 'xml', 'jsonld'] as const satisfies readonly Format[];

/** What was found, and for each setting a sentence that says what decided it. */
export const detectionSchema = z.object({
  reading: readingSchema,
  why: z.record(z.string(), z.string()),
  /** Other lists the document holds, for correcting `itemPath` and `variantPath`. */
  itemPaths: z.array(pathChoice),
  variantPaths: z.array(pathChoice),
  /** What a careful reader would mention: hidden columns, merged cells. */
  notes: z.array(z.string()),
});
export type Detection = z.infer<typeof detectionSchema>;

export interface Detected<T> {
  value: T;
  /** A sentence for people: what made us decide. */
  why: string;
}

/** A file that cannot be read, in words for the person who sent it. */
export class UnreadableFile extends Error {}
