import { conditionSchema } from '@velvet-shelf/core/conditions';
import { feedFormats } from '@velvet-shelf/core/feeds';
import { attributeChangeSchema, channelTypes, numberLimits, rulebookParts } from '@velvet-shelf/core/rulebooks';
import { z } from 'zod';
import { accountStates } from './accounts.js';
import { attributeSchema } from './catalog.js';
import { effectSchema } from './effect.js';
import { endpoint, idParam, rowNumberText } from './endpoint.js';
import { fillEndpoints } from './fills.js';
import { ownChannels } from './own-channels.js';
import { presetEndpoints } from './presets.js';

export const placeSchema = z.object({
  id: z.number(),
  accountId: z.number(),
  channel: z.string(),
  channelName: z.string(),
  market: z.string(),
  name: z.string(),
  language: z.string(),
  currency: z.string(),
  accountState: z.enum(accountStates),
  rulebookVersion: z.string(),
  /** Most variants of one family the channel takes, where it says so. */
  mostInFamily: z.number().nullable(),
  /** Feed formats the channel takes, as it names them. */
  formats: z.array(z.object({ key: z.enum(feedFormats), label: z.string() })),
  totals: z.array(z.object({ readiness: z.string(), channelState: z.string(), listings: z.number() })),
  rechecking: z.number(),
  /** A file of it is being built: what changes now goes with the next one. */
  isBuilding: z.boolean(),
});
export type PlaceAnswer = z.infer<typeof placeSchema>;

const categorySuggestionSchema = z.object({
  path: z.string(),
  names: z.array(z.string()),
  /** How likely it is right, in percent. */
  score: z.number(),
  /** In words, the weightiest first. */
  evidence: z.array(z.string()),
  /** Sure enough to be taken with others at once. */
  isSure: z.boolean(),
});
export type CategorySuggestion = z.infer<typeof categorySuggestionSchema>;

/** Goods of one of our categories of which a condition holds stand elsewhere. */
export const categorySplitSchema = z.object({
  condition: conditionSchema,
  target: z.string().max(1000),
  second: z.string().max(1000).optional(),
});
export type CategorySplit = z.infer<typeof categorySplitSchema>;

/** What is said of a category; what is not said stays as it is. Null takes the mapping away whole. */
const categoryMapSchema = z.object({
  category: z.string(),
  target: z.string().nullable(),
  second: z.string().max(1000).nullable().optional(),
  splits: z.array(categorySplitSchema).max(40).optional(),
});
export type CategoryMapping = z.infer<typeof categoryMapSchema>;

export const categoryRowSchema = z.object({
  /** Key of our category, and its names from the root down. */
  category: z.string(),
  names: z.array(z.string()),
  variants: z.number(),
  target: z.string().nullable(),
  targetNames: z.array(z.string()).nullable(),
  second: z.string().nullable(),
  splits: z.array(categorySplitSchema),
  /** It is mapped for this market alone. */
  isOfMarket: z.boolean(),
  fault: z.string().nullable(),
  /** Likeliest first. */
  suggestions: z.array(categorySuggestionSchema),
});
export type CategoryRow = z.infer<typeof categoryRowSchema>;

/** One thing in which two versions of a rulebook differ. */
const rulebookChangeSchema = z.object({
  part: z.enum(rulebookParts),
  key: z.string(),
  /** As people call it. */
  name: z.string(),
  kind: z.enum(['added', 'removed', 'tightened', 'loosened', 'changed']),
  words: z.array(z.string()),
});
export type RulebookChangeAnswer = z.infer<typeof rulebookChangeSchema>;

const askedFieldSchema = z.object({
  key: z.string(),
  label: z.string(),
  help: z.string().nullable(),
  type: z.enum(channelTypes),
  many: z.boolean(),
  need: z.enum(['required', 'recommended', 'optional']),
  /** What it takes, in short phrases. */
  says: z.array(z.string()),
  /** Limits of one number that can be said anew; null where there is none. */
  limits: z.partialRecord(z.enum(numberLimits), z.number().nullable()),
  /** Its closed list, if it has one. */
  values: z.array(z.string()).nullable(),
  /** Categories it is asked for in alone, by their names from the root; none where it is asked for in all. */
  only: z.array(z.string()),
  /** Categories for which something else is said of it. */
  elsewhere: z.array(z.string()),
});
export type AskedFieldAnswer = z.infer<typeof askedFieldSchema>;

export const channels = {
  ...ownChannels,
  ...fillEndpoints,
  ...presetEndpoints,
  places: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places',
    summary: 'Places with their totals',
    answer: z.object({ items: z.array(placeSchema) }),
  }),
  categories: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/categories',
    summary: 'Our categories and where they go at this place; unmapped with most goods first',
    params: idParam,
    answer: z.object({ items: z.array(categoryRowSchema) }),
  }),
  tree: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/tree',
    summary: 'The channel’s category tree',
    params: idParam,
    answer: z.object({
      items: z.array(z.object({ path: z.string(), names: z.array(z.string()), leaf: z.boolean() })),
      leafOnly: z.boolean(),
      /** The channel takes a further category. */
      takesSecond: z.boolean(),
      /** It can be asked where it would put goods. */
      saysPlaces: z.boolean(),
    }),
  }),
  placing: endpoint({
    role: 'editor',
    method: 'GET',
    path: '/api/places/:id/placing',
    summary: 'Where the channel itself would put goods of one of our categories, asked with some of their titles',
    params: idParam,
    query: z.object({ category: z.string().max(500) }),
    answer: z.object({ items: z.array(z.object({ path: z.string(), names: z.array(z.string()) })) }),
  }),
  mapCategory: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/categories',
    summary: 'Map our categories to the channel’s; null takes a mapping away',
    params: idParam,
    body: z.object({
      maps: z.array(categoryMapSchema).min(1).max(5000),
      /** Of the place, where it is for that market alone; taken away there, that of all markets holds again. */
      market: z.string().max(100).default(''),
    }),
    answer: effectSchema,
  }),
  tryCategories: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/categories/try',
    summary: 'What mapping categories would do to how listings stand, not saved',
    params: idParam,
    body: z.object({
      maps: z.array(categoryMapSchema).min(1).max(5000),
      market: z.string().max(100).default(''),
    }),
    answer: effectSchema.extend({
      /** By our category: listings that stand elsewhere by each of its splits, in their order. */
      splits: z.record(z.string(), z.array(z.number())),
    }),
  }),
  compared: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/fills/compared',
    summary: 'What the cases of a fill can compare',
    answer: z.object({ items: z.array(attributeSchema) }),
  }),
  rulebooks: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/rulebooks',
    summary: 'The channel’s rulebook versions, and how each differs from the one in use',
    params: idParam,
    answer: z.object({
      items: z.array(
        z.object({
          id: z.number(),
          version: z.string(),
          validFrom: z.string(),
          inUse: z.boolean(),
          /** Day on which it is taken by itself. */
          takeOn: z.string().nullable(),
          summary: z.string().nullable(),
          categories: z.number(),
          attributes: z.number(),
          changes: z.array(rulebookChangeSchema),
        }),
      ),
    }),
  }),
  comparedInCategories: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/rulebooks/:rulebookId/categories',
    summary:
      'What a version asks otherwise in each of the channel’s categories that goods of the place are in, or no longer has it',
    params: idParam.extend({ rulebookId: rowNumberText }),
    answer: z.object({
      items: z.array(
        z.object({
          path: z.string(),
          names: z.array(z.string()),
          listings: z.number(),
          isGone: z.boolean(),
          changes: z.array(rulebookChangeSchema),
        }),
      ),
    }),
  }),
  fields: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/rulebooks/:rulebookId/fields',
    summary: 'What a version asks for, of all goods or of those in one of the channel’s categories',
    params: idParam.extend({ rulebookId: rowNumberText }),
    query: z.object({ category: z.string().max(1000).optional() }),
    answer: z.object({ items: z.array(askedFieldSchema) }),
  }),
  changeFields: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/places/:id/rulebooks/:rulebookId/fields',
    summary: 'A further version in which a need, a limit or an allowed value is another; it is not in use yet',
    params: idParam.extend({ rulebookId: rowNumberText }),
    body: z.object({
      version: z.string().trim().min(1, 'Name the version').max(60),
      validFrom: z.iso.date(),
      changes: z.array(attributeChangeSchema).min(1).max(1000),
    }),
    answer: z.object({ version: z.string() }),
  }),
  loadRulebook: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/places/:id/rulebooks',
    summary: 'Load a rulebook version from its JSON',
    params: idParam,
    body: z.object({ rulebook: z.unknown() }),
    answer: z.object({ version: z.string() }),
  }),
  tryRulebook: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/rulebooks/:rulebookId/try',
    summary: 'What another version would do to the whole assortment, not saved',
    params: idParam.extend({ rulebookId: rowNumberText }),
    answer: effectSchema.extend({
      listings: z.number(),
      causes: z.array(z.object({ words: z.string(), listings: z.number() })),
    }),
  }),
  categorySchema: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/rulebooks/:rulebookId/schema',
    summary: 'What a category asks for as JSON Schema (2020-12), and what of it that does not say',
    params: idParam.extend({ rulebookId: rowNumberText }),
    query: z.object({ category: z.string().max(1000).optional() }),
    answer: z.object({ schema: z.unknown(), left: z.array(z.string()) }),
  }),
  readSchema: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/places/:id/rulebooks/:rulebookId/schema',
    summary:
      'Load a version in which a category asks for what a JSON Schema says; answers what of that is not carried over',
    params: idParam.extend({ rulebookId: rowNumberText }),
    body: z.object({
      category: z.string().min(1).max(1000),
      version: z.string().trim().min(1).max(60),
      schema: z.unknown(),
    }),
    answer: z.object({ version: z.string(), attributes: z.number(), left: z.array(z.string()) }),
  }),
  rulebookFormat: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/rulebook-format',
    summary: 'How a rulebook is written, as JSON Schema (2020-12)',
    answer: z.unknown(),
  }),
  planRulebook: endpoint({
    role: 'publisher',
    method: 'PUT',
    path: '/api/places/:id/rulebooks/:rulebookId/day',
    summary: 'Take this version by itself on a day that is to come; null: not any more',
    params: idParam.extend({ rulebookId: rowNumberText }),
    body: z.object({ takeOn: z.iso.date().nullable() }),
    answer: z.object({}),
  }),
  takeRulebook: endpoint({
    role: 'publisher',
    method: 'PUT',
    path: '/api/places/:id/rulebooks/:rulebookId',
    summary: 'Use this version from now on; before the day it holds from, somebody has to say that she means it',
    params: idParam.extend({ rulebookId: rowNumberText }),
    body: z.object({ early: z.boolean().default(false) }),
    answer: effectSchema,
  }),
};
