/** The attribute dictionary and its closed lists: our category tree is the list of the attribute whose role is category. */
import { attributeTypes, dimensions, readLanguage, roles } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { endpoint, idParam, rowNumber } from './endpoint.js';

/** What somebody says of an attribute. */
export const attributeFields = z.object({
  label: z.string().trim().min(1, 'Give its name').max(120),
  type: z.enum(attributeTypes),
  many: z.boolean(),
  perLanguage: z.boolean(),
  level: z.enum(['family', 'variant']),
  /** Of measures. */
  dimension: z.enum(dimensions).nullable(),
  role: z.enum(roles).nullable(),
  /** Other names that columns of it have. */
  aliases: z.array(z.string().trim().min(1).max(120)).max(100),
  group: z.string().trim().min(1, 'Give a group').max(60),
});
export type AttributeFields = z.infer<typeof attributeFields>;

export const dictionaryRowSchema = attributeFields.extend({
  id: z.number(),
  key: z.string(),
  putAway: z.boolean(),
  /** Follows from sources; nobody types it. */
  isComputed: z.boolean(),
  /** Values on its list; null where it may be anything. */
  values: z.number().nullable(),
});
export type DictionaryRow = z.infer<typeof dictionaryRowSchema>;

const nameSchema = z.string().trim().min(1, 'Give a name').max(200);
export const valueFields = z.object({
  /** By language (BCP 47). */
  names: z.record(
    z.string().refine((tag) => readLanguage(tag) === tag, 'A language, as BCP 47 has it'),
    nameSchema,
  ),
  spellings: z.array(nameSchema).max(200),
  /** Number of the value it stands below. */
  parentId: rowNumber.nullable(),
  /** Among those beside it. */
  position: z.number().int().min(0).max(2_000_000_000),
  /** Keys of attributes that goods of it must have a value of, besides those of what it stands below. */
  requires: z.array(z.string().min(1).max(200)).max(200),
  hidden: z.boolean(),
});
export type ValueFields = z.infer<typeof valueFields>;

export const listValueSchema = valueFields.extend({
  id: z.number(),
  key: z.string(),
  /** Names from the root down, in the company's own language. */
  path: z.array(z.string()),
  /** Goods that have it, those below it not counted. */
  goods: z.number(),
});
export type ListValueAnswer = z.infer<typeof listValueSchema>;

/** A change of some fields, against what whoever makes it saw of them. */
const changeOf = <Fields extends z.ZodObject>(fields: Fields) =>
  z.object({ to: fields.partial(), was: fields.partial() });

export const dictionary = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/dictionary',
    summary: 'Attributes with all that is said of them, put away ones too',
    answer: z.object({ items: z.array(dictionaryRowSchema) }),
  }),
  uses: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/dictionary/uses',
    summary: 'How many goods have a value of each attribute, by its number',
    answer: z.object({ goods: z.record(z.string(), z.number()) }),
  }),
  add: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/dictionary',
    summary: 'New attributes, one or many at once; a list comes with its values',
    body: z.object({
      attributes: z
        .array(attributeFields.extend({ values: z.array(nameSchema).max(5000).default([]) }))
        .min(1)
        .max(500),
    }),
    answer: z.object({ ids: z.array(z.number()) }),
  }),
  change: endpoint({
    role: 'editor',
    method: 'PATCH',
    path: '/api/dictionary/:id',
    summary:
      'Change an attribute, put it away or back; what values are (type, list or not, languages) only as long as no goods have one',
    params: idParam,
    body: z.object({
      to: attributeFields.extend({ putAway: z.boolean() }).partial(),
      was: attributeFields.extend({ putAway: z.boolean() }).partial(),
    }),
    answer: z.object({ job: z.number().nullable() }),
  }),
  merge: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/dictionary/:id/merge',
    summary:
      'Make an attribute one with another of its kind: sources, people, columns, fills and conditions that name it mean the other',
    params: idParam,
    body: z.object({
      /** Number of the attribute that is left. */
      into: rowNumber,
    }),
    answer: z.object({ job: z.number().nullable() }),
  }),
  tree: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/categories/own',
    summary: 'The number of the attribute that is our category tree; null where no category was made yet',
    answer: z.object({ id: z.number().nullable() }),
  }),
  values: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/dictionary/:id/values',
    summary: 'The list of an attribute, a tree from the root down',
    params: idParam,
    answer: z.object({ items: z.array(listValueSchema) }),
  }),
  addValues: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/dictionary/:id/values',
    summary: 'New values of a list, each as its names from the root down; those already there are left as they are',
    params: idParam,
    body: z.object({
      paths: z.array(z.array(nameSchema).min(1).max(20)).min(1).max(5000),
      /** All below this one. */
      below: rowNumber.nullable().default(null),
    }),
    answer: z.object({ made: z.number(), known: z.number() }),
  }),
  addCategories: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/categories/own',
    summary: 'New categories, each as its names from the root down; the tree is made with the first',
    body: z.object({
      paths: z.array(z.array(nameSchema).min(1).max(20)).min(1).max(5000),
      below: rowNumber.nullable().default(null),
    }),
    answer: z.object({ made: z.number(), known: z.number() }),
  }),
  changeValue: endpoint({
    role: 'editor',
    method: 'PATCH',
    path: '/api/values/:id',
    summary: 'Rename a value, move it, give it spellings, put it away or back; goods, maps and conditions follow it',
    params: idParam,
    body: changeOf(valueFields),
    /** The job that tells the goods, where what is required of them changed. */
    answer: z.object({ job: z.number().nullable() }),
  }),
  mergeValue: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/values/:id/merge',
    summary:
      'Make a value one with another of its list: goods, maps, conditions and files that say it mean the other, and what stood below it stands there',
    params: idParam,
    body: z.object({
      /** Number of the value that is left. */
      into: rowNumber,
    }),
    answer: z.object({ job: z.number().nullable() }),
  }),
};
