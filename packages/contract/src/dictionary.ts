/** The attribute dictionary and its closed lists: our category tree is the list of the attribute whose role is category. */
import { computedKinds } from '@velvet-shelf/core/computed';
import { attributeTypes, dimensions, readLanguage, roles } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { endpoint, idParam, rowNumber } from './endpoint.js';

const kindsOfComputing = computedKinds.map(({ kind }) => kind);

const computation = z.object({
  kind: z.enum(kindsOfComputing),
  /** Keys of the attributes it follows from, in their order. */
  of: z.array(z.string().min(1).max(200)).max(10),
  /** The unit of a measure, or the currency of an amount. */
  unit: z.string().min(1).max(20).optional(),
});

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
  /** For whoever enters it: what is meant, and what is not. */
  help: z.string().trim().max(500).default(''),
  /** How it follows from others where no source and nobody says it. */
  computed: computation.nullable().default(null),
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
  /** Keys of attributes that are one with it: what names them means it. */
  formerKeys: z.array(z.string()),
});
export type DictionaryRow = z.infer<typeof dictionaryRowSchema>;

/** An attribute as somebody would have it worked out; its key where there is one already. */
const wantedComputation = z.object({
  attribute: attributeFields
    .pick({ label: true, type: true, many: true, perLanguage: true, dimension: true })
    .extend({ key: z.string().min(1).max(200).optional() }),
  computed: computation,
});
export type WantedComputation = z.output<typeof wantedComputation>;

const triedComputation = z.object({
  /** Why it cannot be, as a sentence for people. */
  objection: z.string().nullable(),
  /** Goods that hold what it takes, of so many. */
  goods: z.number(),
  of: z.number(),
  examples: z.array(
    z.object({
      id: z.number(),
      sku: z.string().nullable(),
      title: z.string().nullable(),
      /** As a reader would see it; null where there is none. */
      text: z.string().nullable(),
      /** How it comes about, or why there is none. */
      why: z.string(),
    }),
  ),
});
export type TriedComputation = z.infer<typeof triedComputation>;

/** What values shall be, and how those there are, and what files bring, is read as such. */
const wantedKind = z.object({
  type: z.enum(attributeTypes),
  many: z.boolean(),
  dimension: z.enum(dimensions).nullish(),
  style: z.object({
    decimal: z.enum(['.', ',']).default('.'),
    dateOrder: z.enum(['dmy', 'mdy', 'ymd']).default('ymd'),
    /** Of bare figures; of measures that become numbers, what the numbers are in. */
    unit: z.string().min(1).max(20).optional(),
    currency: z.string().length(3).optional(),
  }),
});
export type WantedKind = z.output<typeof wantedKind>;

const triedKind = z.object({
  /** Why it cannot be at all. */
  objection: z.string().nullable(),
  /** Goods that have a value, and those whose value cannot be read as such. */
  goods: z.number(),
  lost: z.number(),
  /** Different values there are. */
  values: z.number(),
  lostValues: z.array(z.object({ text: z.string(), goods: z.number(), reason: z.string() })),
  examples: z.array(z.object({ before: z.string(), after: z.string(), goods: z.number() })),
});
export type TriedKind = z.infer<typeof triedKind>;

const kindChanged = z.object({
  /** Number of the attribute that is left. */
  id: z.number(),
  job: z.number().nullable(),
});
export type KindChanged = z.infer<typeof kindChanged>;

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
  tryComputed: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/dictionary/computed/try',
    summary: 'What working an attribute out so would give, for a few goods; nothing is kept',
    body: wantedComputation,
    answer: triedComputation,
  }),
  tryKind: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/dictionary/:id/kind/try',
    summary: 'What becomes of the values goods have, if they shall be of another kind; nothing is kept',
    params: idParam,
    body: wantedKind,
    answer: triedKind,
  }),
  changeKind: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/dictionary/:id/kind',
    once: true,
    summary:
      'Make the values of an attribute of another kind, those that goods have included; 412 where it is another already',
    params: idParam,
    body: wantedKind.extend({ was: wantedKind.pick({ type: true, many: true, dimension: true }) }),
    answer: kindChanged,
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
  moveValue: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/values/:id/move',
    summary: 'Move a value below another, or to the root, before one of those that stand there or after them all',
    params: idParam,
    body: z.object({
      parentId: rowNumber.nullable(),
      before: rowNumber.nullable(),
      /** Where it stood, as whoever moves it saw it. */
      wasBelow: rowNumber.nullable(),
    }),
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
