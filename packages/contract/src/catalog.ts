import { optionPlanSchema } from '@velvet-shelf/core/catalog';
import { conditionSchema } from '@velvet-shelf/core/conditions';
import { attributeTypes, roles } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { asideFields } from './bulk.js';
import { effectSchema } from './effect.js';
import { bytes, endpoint, idParam, moment, rowNumber } from './endpoint.js';

/** One of a closed list: what refers to it, and how people read it. */
export const optionSchema = z.object({ key: z.string(), name: z.string() });
export type Option = z.infer<typeof optionSchema>;

export const attributeSchema = z.object({
  key: z.string(),
  label: z.string(),
  type: z.enum(attributeTypes),
  many: z.boolean(),
  perLanguage: z.boolean(),
  level: z.enum(['family', 'variant']),
  group: z.string(),
  role: z.enum(roles).nullable(),
  /** Null where it may be anything. */
  choices: z.array(optionSchema).nullable(),
});
export type AttributeAnswer = z.infer<typeof attributeSchema>;

/** Keys of attributes, parted by commas. */
const columnKeys = z.string().max(4000).default('');

/** Rows that come with the view that is opened, and at once in a window of the grid. */
export const windowRows = 100;

export const viewSchema = z.object({
  condition: conditionSchema.default({ all: [] }),
  search: z.string().max(500).default(''),
  /** Column key, "-" before it for descending. */
  sort: z.string().max(200).default('family'),
  show: z.enum(['both', 'families', 'variants']).default('both'),
  /** Paused and withdrawn goods too. */
  everything: z.boolean().default(false),
  /** Just variants with a value missing or wrong in the catalog, as some channel sees it. */
  toComplete: z.boolean().default(false),
});
export type View = z.infer<typeof viewSchema>;

export const gridRowSchema = z.object({
  id: z.number(),
  kind: z.enum(['family', 'variant', 'single', 'bundle']),
  familyId: z.number().nullable(),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  brand: z.string().nullable(),
  /** Names of its category, from the root down. */
  category: z.array(z.string()).nullable(),
  gtin: z.string().nullable(),
  state: z.string().nullable(),
  picture: z.string().nullable(),
  price: z.string().nullable(),
  stock: z.number(),
  complete: z.number(),
  /** Variants of a family; null on variants. */
  variants: z.number().nullable(),
  /** Further columns asked for, as text. */
  values: z.record(z.string(), z.string()),
  /** State per place. */
  places: z.array(
    z.object({ placeId: z.number(), readiness: z.string(), channelState: z.string(), listings: z.number() }),
  ),
});
export type GridRow = z.infer<typeof gridRowSchema>;

const claimSchema = z.object({
  /** As text for people; null = empty on purpose. */
  text: z.string().nullable(),
  from: z.string(),
  at: moment.nullable(),
  wins: z.boolean(),
  batchId: z.number().nullable(),
  row: z.number().nullable(),
  column: z.string().nullable(),
});
export type ClaimAnswer = z.infer<typeof claimSchema>;

export const productValueSchema = z.object({
  attribute: z.string(),
  label: z.string(),
  group: z.string(),
  type: z.enum(attributeTypes),
  role: z.enum(roles).nullable(),
  choices: z.array(optionSchema).nullable(),
  language: z.string().nullable(),
  many: z.boolean(),
  level: z.enum(['family', 'variant']),
  /** Its category requires one. */
  isRequired: z.boolean(),
  /** What is meant, for whoever enters it. */
  help: z.string().nullable(),
  /** As one would type it; null = no value. */
  text: z.string().nullable(),
  /** As people read it. */
  shown: z.string().nullable(),
  origin: z.enum(['edit', 'record', 'inherited', 'computed', 'none']),
  why: z.string().nullable(),
  claims: z.array(claimSchema),
});
export type ProductValue = z.infer<typeof productValueSchema>;

export const productSchema = z.object({
  id: z.number(),
  kind: z.enum(['family', 'variant', 'single', 'bundle']),
  family: z.object({ id: z.number(), title: z.string().nullable(), variants: z.number() }).nullable(),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  picture: z.string().nullable(),
  state: z.string().nullable(),
  /** Names of its category, from the root down. */
  category: z.array(z.string()),
  options: z.array(z.tuple([z.string(), z.string()])),
  price: z.record(
    z.string(),
    z.object({
      regular: z.string().optional(),
      sale: z.object({ amount: z.string(), from: z.string().optional(), to: z.string().optional() }).optional(),
    }),
  ),
  stock: z.number(),
  version: z.number(),
  values: z.array(productValueSchema),
  /** Supplier records that speak for it, best ranked first; none for a family. */
  sources: z.array(z.object({ recordId: z.number(), supplier: z.string(), key: z.string(), dropped: z.boolean() })),
  /** What is set aside of it now; null where nothing is. */
  aside: asideFields.nullable(),
  /** What people say of the options of its family; null of what is of none. */
  plan: optionPlanSchema.nullable(),
  siblings: z.array(
    z.object({
      id: z.number(),
      sku: z.string().nullable(),
      title: z.string().nullable(),
      options: z.array(z.tuple([z.string(), z.string()])),
      picture: z.string().nullable(),
      /** Its regular price in the company's own currency. */
      price: z.string().nullable(),
      stock: z.number(),
      /** One of its options is shown to nobody. */
      isHidden: z.boolean(),
      places: z.array(z.object({ placeId: z.number(), readiness: z.string(), channelState: z.string() })),
      /** What it holds otherwise than most of its siblings, as people read it. */
      differs: z.array(z.object({ attribute: z.string(), label: z.string(), shown: z.string().nullable() })),
    }),
  ),
  listings: z.array(
    z.object({
      id: z.number(),
      placeId: z.number(),
      place: z.string(),
      readiness: z.string(),
      channelState: z.string(),
      findings: z.number(),
    }),
  ),
});
export type ProductAnswer = z.infer<typeof productSchema>;
export type Sibling = ProductAnswer['siblings'][number];

const otherGoodsSchema = z.object({
  id: z.number(),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  picture: z.string().nullable(),
  /** Regular, in the company's own currency. */
  price: z.string().nullable(),
  stock: z.number(),
});
export type OtherGoods = z.infer<typeof otherGoodsSchema>;

const keptGoods = z.object({
  /** That keeps them; null where no attribute has the role. */
  attribute: z.object({ key: z.string(), label: z.string() }).nullable(),
  /** `goods` null: nothing has that SKU. */
  kept: z.array(z.object({ sku: z.string(), goods: otherGoodsSchema.nullable() })),
});

const otherGoodsAnswer = z.object({
  substitutes: keptGoods,
  related: keptGoods,
  /** What could stand in besides, most alike first, with the labels of what is the same and what is not. */
  proposed: z.array(
    z.object({
      goods: otherGoodsSchema,
      score: z.number(),
      same: z.array(z.string()),
      other: z.array(z.string()),
    }),
  ),
});
export type OtherGoodsAnswer = z.infer<typeof otherGoodsAnswer>;

/** `text: null` = empty on purpose; `letGo` = the sources speak again. `madeAgainst` is the text the edit was made against. */
export const editSchema = z.object({
  attribute: z.string(),
  language: z.string().nullable().default(null),
  text: z.string().nullable().optional(),
  letGo: z.boolean().optional(),
  madeAgainst: z.string().nullable(),
});
export type Edit = z.input<typeof editSchema>;

export const historyEntrySchema = z.object({
  id: z.number(),
  at: moment,
  actor: z.string().nullable(),
  kind: z.string(),
  words: z.string(),
  undone: z.boolean(),
  canUndo: z.boolean(),
  fields: z.array(z.object({ field: z.string(), before: z.string().nullable(), after: z.string().nullable() })),
});
export type HistoryEntry = z.infer<typeof historyEntrySchema>;

const differenceSchema = z.object({
  /** What `putBack` calls it. */
  field: z.string(),
  label: z.string(),
  /** As people read them; null = nothing. */
  before: z.string().nullable(),
  after: z.string().nullable(),
  /** As one would type it now; undefined where it is no value that can be put back. */
  now: z.string().nullable().optional(),
});
export type Difference = z.infer<typeof differenceSchema>;

export const catalog = {
  attributes: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/attributes',
    summary: 'The attribute dictionary',
    answer: z.object({ items: z.array(attributeSchema) }),
  }),
  categories: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/categories',
    summary: 'Our own category tree',
    answer: z.object({ items: z.array(optionSchema) }),
  }),
  open: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/views',
    summary: 'Open a grid view: answers a token, and its first rows with the columns asked for',
    body: viewSchema.extend({ columns: columnKeys }),
    answer: z.object({
      token: z.string(),
      first: z.array(gridRowSchema.nullable()),
      /** How many there are; null where they are more than the first, until `size` has counted them. */
      rows: z.number().nullable(),
      /** No goods have the words of the search; these have words like them. */
      isLike: z.boolean(),
    }),
  }),
  size: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/views/:token',
    summary: 'How many rows a view has',
    params: z.object({ token: z.string().max(100) }),
    answer: z.object({ rows: z.number() }),
  }),
  window: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/views/:token/rows',
    summary: 'A window of a view’s rows',
    params: z.object({ token: z.string().max(100) }),
    query: z.object({
      from: z.coerce.number().int().min(0),
      count: z.coerce.number().int().min(1).max(500),
      columns: columnKeys,
    }),
    /** In the order of the view; null where goods have gone since. */
    answer: z.object({ items: z.array(gridRowSchema.nullable()) }),
  }),
  beside: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/views/:token/beside/:id',
    summary: 'Where a product stands in a view, and those before and after it',
    params: idParam.extend({ token: z.string().max(100) }),
    /** `at` from 0; null where the view does not have it. */
    answer: z.object({
      at: z.number().nullable(),
      of: z.number(),
      before: z.number().nullable(),
      next: z.number().nullable(),
    }),
  }),
  counts: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/views/:token/counts',
    summary: 'What a view shows and what it leaves out, by reason',
    params: z.object({ token: z.string().max(100) }),
    answer: z.object({
      variants: z.number(),
      families: z.number(),
      leftOut: z.array(z.object({ reason: z.string(), variants: z.number(), withStock: z.number() })),
    }),
  }),
  product: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id',
    summary: 'One product',
    params: idParam,
    answer: productSchema,
  }),
  edit: endpoint({
    role: 'editor',
    method: 'PATCH',
    path: '/api/products/:id',
    summary: 'Edit values; 412 with both versions where somebody was faster',
    params: idParam,
    body: z.object({ edits: z.array(editSchema).min(1).max(200) }),
    answer: effectSchema,
  }),
  otherGoods: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/other-goods',
    summary: 'Substitutes kept for a product, what goes with it, and what could stand in for it',
    params: idParam,
    answer: otherGoodsAnswer,
  }),
  history: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/history',
    summary: 'What happened to a product, newest first',
    params: idParam,
    answer: z.object({ items: z.array(historyEntrySchema) }),
  }),
  compare: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/compare',
    summary: 'What differs between two moments of a product: as it was after one action, and after another, or now',
    params: idParam,
    query: z.object({ from: z.coerce.number().int().min(1), to: z.coerce.number().int().min(1).optional() }),
    answer: z.object({ items: z.array(differenceSchema) }),
  }),
  putBack: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/products/:id/put-back',
    once: true,
    summary: 'Put values back to what they were after an action, as one edit; 412 where somebody was faster',
    params: idParam,
    body: z.object({
      from: rowNumber,
      fields: z
        .array(z.object({ field: z.string().max(300), madeAgainst: z.string().nullable() }))
        .min(1)
        .max(200),
    }),
    answer: effectSchema,
  }),
  export: endpoint({
    method: 'GET',
    path: '/api/export',
    summary: 'The grid as a file, with stable column keys',
    role: 'editor',
    kind: 'file',
    query: z.object({
      /** Token of an opened view; absent = all goods. */
      view: z.string().max(100).optional(),
      columns: z.string().max(4000).optional(),
      format: z.enum(['csv', 'xlsx']).default('csv'),
    }),
    answer: bytes,
  }),
};
