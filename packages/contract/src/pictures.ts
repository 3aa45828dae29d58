/** Pictures: brought in, measured, told what is seen on them, and given to goods. */
import { z } from 'zod';
import { effectSchema } from './effect.js';
import { cursorQuery, endpoint, idParam, moment, page, rowNumber } from './endpoint.js';

/** Files that are placed at once. */
export const mostFiles = 2000;

const fileName = z.string().trim().min(1).max(200);
const languageTag = z.string().regex(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/, 'A language as BCP 47 writes it');

export const pictureSchema = z.object({
  id: z.number(),
  name: z.string(),
  format: z.string(),
  bytes: z.number(),
  width: z.number(),
  height: z.number(),
  /** Of its edge, in per cent: how much has one colour. */
  plain: z.number(),
  /** Of the shorter side, in per cent: how much is ground alone on every side. */
  blank: z.number(),
  /** What was done to it when it came. */
  changes: z.array(z.string()),
  alt: z.record(z.string(), z.string()),
  at: moment,
  /** Goods that name it: families, variants and singles. */
  used: z.number(),
});
export type PictureAnswer = z.infer<typeof pictureSchema>;

const placedFileSchema = z.object({
  name: z.string(),
  product: z
    .object({ id: z.number(), kind: z.string(), sku: z.string().nullable(), title: z.string().nullable() })
    .nullable(),
  /** Why it goes there, or nowhere. */
  why: z.string(),
  /** The goods have it already. */
  held: z.boolean(),
});
export type PlacedFile = z.infer<typeof placedFileSchema>;

export const pictures = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/pictures',
    summary: 'Pictures by name: all, or those nothing names',
    query: cursorQuery.extend({ search: z.string().max(200).optional(), unused: z.enum(['yes']).optional() }),
    answer: page(pictureSchema).extend({ all: z.number(), unused: z.number(), missing: z.number() }),
  }),
  missing: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/pictures/missing',
    summary: 'Pictures that goods name and that have not come, those most goods name first',
    answer: z.object({ items: z.array(z.object({ name: z.string(), goods: z.number(), product: z.number() })) }),
  }),
  one: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/pictures/:id',
    summary: 'A picture, and the goods that name it',
    params: idParam,
    answer: pictureSchema.extend({
      goods: z.array(
        z.object({ id: z.number(), kind: z.string(), sku: z.string().nullable(), title: z.string().nullable() }),
      ),
    }),
  }),
  upload: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/pictures',
    kind: 'upload',
    summary: 'Send a picture in, in a field named “file”; goods that name it have it at once',
    answer: pictureSchema,
  }),
  fetch: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/pictures/fetch',
    summary: 'Fetch a picture from an address',
    body: z.object({ address: z.string().trim().min(1).max(2000) }),
    answer: pictureSchema,
  }),
  alt: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/pictures/:id/alt',
    summary: 'Say what is seen on a picture, by language',
    params: idParam,
    body: z.object({ alt: z.record(languageTag, z.string().trim().max(500)) }),
    answer: pictureSchema,
  }),
  remove: endpoint({
    role: 'editor',
    method: 'DELETE',
    path: '/api/pictures/:id',
    summary: 'Throw a picture away that nothing names',
    params: idParam,
    answer: z.object({}),
  }),
  place: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/pictures/place',
    summary: 'To which goods files belong, by the numbers in their names; nothing is changed',
    body: z.object({ names: z.array(fileName).min(1).max(mostFiles) }),
    answer: z.object({ items: z.array(placedFileSchema) }),
  }),
  give: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/pictures/give',
    once: true,
    summary: 'Give pictures to goods, behind those they have; one may go to several',
    body: z.object({
      given: z
        .array(z.object({ name: fileName, product: rowNumber }))
        .min(1)
        .max(5000),
    }),
    answer: effectSchema.extend({ goods: z.number() }),
  }),
};
