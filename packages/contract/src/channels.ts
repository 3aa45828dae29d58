import { feedFormats } from '@velvet-shelf/core/feeds';
import { channelTypes } from '@velvet-shelf/core/rulebooks';
import { fillSchema, fitSchema } from '@velvet-shelf/core/fills';
import { z } from 'zod';
import { attributeSchema } from './catalog.js';
import { effectSchema } from './effect.js';
import { endpoint, idParam, rowNumberText } from './endpoint.js';
import { ownChannels } from './own-channels.js';

export const placeSchema = z.object({
  id: z.number(),
  channel: z.string(),
  channelName: z.string(),
  market: z.string(),
  name: z.string(),
  language: z.string(),
  currency: z.string(),
  accountState: z.string(),
  rulebookVersion: z.string(),
  /** Most variants of one family the channel takes, where it says so. */
  mostInFamily: z.number().nullable(),
  /** Feed formats the channel takes, as it names them. */
  formats: z.array(z.object({ key: z.enum(feedFormats), label: z.string() })),
  totals: z.array(z.object({ readiness: z.string(), channelState: z.string(), listings: z.number() })),
  rechecking: z.number(),
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

export const categoryRowSchema = z.object({
  /** Key of our category, and its names from the root down. */
  category: z.string(),
  names: z.array(z.string()),
  variants: z.number(),
  target: z.string().nullable(),
  targetNames: z.array(z.string()).nullable(),
  /** It is mapped for this market alone. */
  isOfMarket: z.boolean(),
  fault: z.string().nullable(),
  /** Likeliest first. */
  suggestions: z.array(categorySuggestionSchema),
});
export type CategoryRow = z.infer<typeof categoryRowSchema>;

const suggestedValueSchema = z.object({
  value: z.string(),
  /** How likely it is right, in percent. */
  score: z.number(),
  /** In words, the weightiest first. */
  evidence: z.array(z.string()),
});
export type SuggestedValue = z.infer<typeof suggestedValueSchema>;

const wordToTranslateSchema = z.object({
  /** As a table of translations has it: the key of what stands on a list of ours. */
  value: z.string(),
  name: z.string(),
  /** Listings whose goods have it. */
  goods: z.number(),
  suggestions: z.array(suggestedValueSchema),
});
export type WordToTranslate = z.infer<typeof wordToTranslateSchema>;

export const channelAttributeSchema = z.object({
  key: z.string(),
  label: z.string(),
  help: z.string().nullable(),
  type: z.enum(channelTypes),
  need: z.enum(['required', 'recommended', 'optional']),
  limits: z.array(z.string()),
  values: z.array(z.string()).nullable(),
  /** The one for goods of no category, where no other is said. */
  fill: fillSchema.nullable(),
  /** All there are: the most specific one wins; the one for all goods comes first. */
  slots: z.array(
    z.object({
      market: z.string(),
      category: z.string(),
      /** Of the category, from the root down. */
      names: z.array(z.string()),
      fill: fillSchema,
      /** Listings that get their value by it, and those it would be for where a more specific one wins. */
      goods: z.number(),
      hidden: z.number(),
    }),
  ),
  /** Where it has none: what names and types say it could copy. */
  suggested: z.object({ fill: fillSchema, why: z.string() }).nullable(),
  /** Steps that one click switches on, as they are offered. */
  steps: z.array(z.object({ step: fitSchema, label: z.string() })),
  sources: z.array(z.object({ name: z.string(), label: z.string() })),
  /** What gives pictures, for layouts. */
  pictures: z.array(z.object({ name: z.string(), label: z.string() })),
  /** Markup it takes, by its tags; null where the channel does not tell. */
  tags: z.array(z.string()).nullable(),
  /** Listings with and without a value. */
  filled: z.number(),
  missing: z.number(),
  samples: z.array(
    z.object({ listingId: z.number(), title: z.string(), value: z.string().nullable(), fault: z.string().nullable() }),
  ),
  /** A fixed value goes out for goods that hold values of their own, and not all the same. */
  covers: z
    .object({
      /** Key of our attribute. */
      from: z.string(),
      label: z.string(),
      distinct: z.number(),
      /** What most of them hold. */
      examples: z.array(z.object({ text: z.string(), goods: z.number() })),
    })
    .nullable(),
  /** Of a fill that is tried, what it does to how listings stand. */
  effect: effectSchema.nullable(),
});
export type ChannelAttributeAnswer = z.infer<typeof channelAttributeSchema>;

/** A fill for all goods, or for those of one category or one market alone. */
const placedFillBody = z.object({
  fill: fillSchema.nullable(),
  market: z.string().max(100).default(''),
  category: z.string().max(1000).default(''),
});

const marketParams = idParam.extend({ attribute: z.string() });

export const channels = {
  ...ownChannels,
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
    }),
  }),
  mapCategory: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/categories',
    summary: 'Map our categories to the channel’s; null takes a mapping away',
    params: idParam,
    body: z.object({
      maps: z.array(z.object({ category: z.string(), target: z.string().nullable() })).min(1),
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
    body: z.object({ maps: z.array(z.object({ category: z.string(), target: z.string().nullable() })).min(1) }),
    answer: effectSchema,
  }),
  fills: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/fills',
    summary: 'The channel’s attributes with their fills and sample results',
    params: idParam,
    answer: z.object({ items: z.array(channelAttributeSchema) }),
  }),
  compared: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/fills/compared',
    summary: 'What the cases of a fill can compare',
    answer: z.object({ items: z.array(attributeSchema) }),
  }),
  tryFill: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/fills/:attribute/try',
    summary: 'What a fill would give, not saved',
    params: marketParams,
    body: placedFillBody,
    answer: channelAttributeSchema,
  }),
  words: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/fills/:attribute/words',
    summary:
      'Values of ours that a translation meets, most goods first, each with what it may be on the channel’s list',
    params: marketParams,
    query: z.object({ from: z.string().max(500) }),
    answer: z.object({ items: z.array(wordToTranslateSchema) }),
  }),
  tryFills: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/fills/try',
    summary: 'What several fills would do to how listings stand, not saved',
    params: idParam,
    body: z.object({
      fills: z
        .array(z.object({ attribute: z.string(), fill: fillSchema }))
        .min(1)
        .max(500),
    }),
    answer: effectSchema,
  }),
  saveFills: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/fills',
    summary: 'Save several fills at once, where there is none yet',
    params: idParam,
    body: z.object({
      fills: z
        .array(z.object({ attribute: z.string(), fill: fillSchema }))
        .min(1)
        .max(500),
    }),
    answer: effectSchema,
  }),
  saveFill: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/fills/:attribute',
    summary: 'Save a fill; null takes it away',
    params: marketParams,
    body: placedFillBody,
    answer: effectSchema,
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
          summary: z.string().nullable(),
          categories: z.number(),
          attributes: z.number(),
          changes: z.array(
            z.object({
              part: z.enum(['category', 'attribute', 'rule', 'eligibility']),
              key: z.string(),
              kind: z.enum(['added', 'removed', 'tightened', 'loosened', 'changed']),
              words: z.array(z.string()),
            }),
          ),
        }),
      ),
    }),
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
