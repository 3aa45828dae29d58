import { conditionSchema } from '@velvet-shelf/core/conditions';
import { feedFormats } from '@velvet-shelf/core/feeds';
import { fillSchema, fitSchema } from '@velvet-shelf/core/fills';
import { isCountry, isCurrency, readLanguage } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { attributeSchema } from './catalog.js';
import { endpoint, idParam, rowNumberText } from './endpoint.js';

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
  /** Feed formats the channel takes, as it names them. */
  formats: z.array(z.object({ key: z.enum(feedFormats), label: z.string() })),
  totals: z.array(z.object({ readiness: z.string(), channelState: z.string(), listings: z.number() })),
  rechecking: z.number(),
});
export type PlaceAnswer = z.infer<typeof placeSchema>;

export const categoryRowSchema = z.object({
  /** Key of our category, and its names from the root down. */
  category: z.string(),
  names: z.array(z.string()),
  variants: z.number(),
  target: z.string().nullable(),
  targetNames: z.array(z.string()).nullable(),
  fault: z.string().nullable(),
  suggestions: z.array(
    z.object({ path: z.string(), names: z.array(z.string()), score: z.number(), evidence: z.array(z.string()) }),
  ),
});
export type CategoryRow = z.infer<typeof categoryRowSchema>;

export const effectSchema = z.object({
  listingsChanged: z.number(),
  becameReady: z.number(),
  becameBlocked: z.number(),
});
export type Effect = z.infer<typeof effectSchema>;

export const channelAttributeSchema = z.object({
  key: z.string(),
  label: z.string(),
  help: z.string().nullable(),
  type: z.string(),
  need: z.enum(['required', 'recommended', 'optional']),
  limits: z.array(z.string()),
  values: z.array(z.string()).nullable(),
  fill: fillSchema.nullable(),
  /** Where it has none: what names and types say it could copy. */
  suggested: z.object({ fill: fillSchema, why: z.string() }).nullable(),
  /** Steps that one click switches on, as they are offered. */
  steps: z.array(z.object({ step: fitSchema, label: z.string() })),
  sources: z.array(z.object({ name: z.string(), label: z.string() })),
  /** Listings with and without a value. */
  filled: z.number(),
  missing: z.number(),
  samples: z.array(
    z.object({ listingId: z.number(), title: z.string(), value: z.string().nullable(), fault: z.string().nullable() }),
  ),
  /** Of a fill that is tried, what it does to how listings stand. */
  effect: effectSchema.nullable(),
});
export type ChannelAttributeAnswer = z.infer<typeof channelAttributeSchema>;

export const marketSchema = z.object({
  key: z.string(),
  name: z.string(),
  country: z.string(),
  language: z.string(),
  currency: z.string(),
});

export const channelSchema = z.object({
  id: z.number(),
  key: z.string(),
  name: z.string(),
  version: z.string(),
  markets: z.array(marketSchema),
  categories: z.number(),
  attributes: z.number(),
  accounts: z.array(
    z.object({
      id: z.number(),
      name: z.string(),
      /** Of the channel's own service; empty where nobody answers for it. */
      address: z.string(),
      places: z.array(z.object({ id: z.number(), name: z.string(), market: z.string() })),
    }),
  ),
});
export type ChannelAnswer = z.infer<typeof channelSchema>;

const lineSchema = z.string().trim().min(1, 'Give a name').max(200);

/** A channel whose rules fit on a page. */
export const smallChannelSchema = z.object({
  name: lineSchema,
  fields: z
    .array(
      z.object({
        label: lineSchema,
        type: z.enum(['text', 'number', 'measure', 'money', 'date', 'boolean', 'choice', 'link', 'picture', 'gtin']),
        need: z.enum(['required', 'recommended', 'optional']),
        maxLength: z.number().int().positive().max(1_000_000).optional(),
        values: z.array(lineSchema).max(5000).optional(),
      }),
    )
    .min(1, 'It asks for one field at least')
    .max(300),
  market: marketSchema.omit({ key: true }).extend({
    name: lineSchema,
    country: z.string().refine(isCountry, 'Choose a country'),
    language: z.string().refine((tag) => readLanguage(tag) === tag, 'Choose a language'),
    currency: z.string().refine(isCurrency, 'Choose a currency (ISO 4217)'),
  }),
  categories: z.array(z.array(lineSchema).min(1).max(20)).max(20_000),
  needsCategory: z.boolean(),
  formats: z.array(z.enum(feedFormats)).min(1, 'It takes one format at least'),
});

/** A condition, and goods put in or kept out by hand. */
export const assortmentSchema = z.object({
  condition: conditionSchema,
  hand: z.array(z.object({ product: z.number().int().positive(), isIn: z.boolean() })).max(20_000),
});
export type AssortmentBody = z.infer<typeof assortmentSchema>;

const marketParams = idParam.extend({ attribute: z.string() });

export const channels = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/channels',
    summary: 'Channels with their accounts and places',
    answer: z.object({ items: z.array(channelSchema) }),
  }),
  shipped: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/channels/shipped',
    summary: 'Channels whose rulebooks ship with the application',
    answer: z.object({
      items: z.array(
        z.object({ key: z.string(), name: z.string(), versions: z.array(z.string()), summary: z.string().nullable() }),
      ),
    }),
  }),
  add: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/channels',
    summary: 'A channel from a rulebook’s JSON, from one that ships, or from a description that fits on a page',
    body: z.union([
      z.strictObject({ rulebook: z.unknown() }),
      z.strictObject({ shipped: z.string() }),
      z.strictObject({ small: smallChannelSchema }),
    ]),
    answer: z.object({ id: z.number() }),
  }),
  addPlace: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/channels/:id/places',
    summary: 'A place on a channel: one of its markets, and which goods it gets',
    params: idParam,
    body: z.object({
      market: z.string().min(1, 'Choose a market'),
      name: z.string().trim().max(120).default(''),
      condition: conditionSchema.default({ all: [] }),
    }),
    answer: z.object({ id: z.number(), effect: effectSchema }),
  }),
  changeAccount: endpoint({
    role: 'publisher',
    method: 'PATCH',
    path: '/api/accounts/:id',
    summary: 'Rename an account, or say the address of the channel’s own service',
    params: idParam,
    body: z.object({
      to: z.object({ name: lineSchema, address: z.union([z.literal(''), z.url({ protocol: /^https?$/ })]) }).partial(),
      was: z.object({ name: z.string(), address: z.string() }).partial(),
    }),
    answer: z.object({}),
  }),
  assortment: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/assortment',
    summary: 'Which goods a place gets',
    params: idParam,
    answer: assortmentSchema.extend({
      hand: z.array(
        z.object({
          product: z.number(),
          isIn: z.boolean(),
          sku: z.string().nullable(),
          title: z.string().nullable(),
          kind: z.string(),
        }),
      ),
      /** Listings it has now. */
      listings: z.number(),
    }),
  }),
  tryAssortment: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/assortment/try',
    summary: 'What another assortment would add and take away, not saved',
    params: idParam,
    body: assortmentSchema,
    answer: z.object({
      joins: z.number(),
      leaves: z.number(),
      stays: z.number(),
      /** Of those that leave: known to the channel. */
      sentLeave: z.number(),
      samples: z.array(
        z.object({ id: z.number(), sku: z.string().nullable(), title: z.string().nullable(), joins: z.boolean() }),
      ),
    }),
  }),
  saveAssortment: endpoint({
    role: 'publisher',
    method: 'PUT',
    path: '/api/places/:id/assortment',
    summary: 'Keep another assortment; `was` is what the change was made against',
    params: idParam,
    body: z.object({ to: assortmentSchema, was: assortmentSchema }),
    answer: effectSchema,
  }),
  renamePlace: endpoint({
    role: 'publisher',
    method: 'PATCH',
    path: '/api/places/:id',
    summary: 'Rename a place',
    params: idParam,
    body: z.object({ to: z.object({ name: lineSchema }), was: z.object({ name: z.string() }) }),
    answer: z.object({}),
  }),
  removePlace: endpoint({
    role: 'publisher',
    method: 'DELETE',
    path: '/api/places/:id',
    summary: 'Remove a place that nothing was sent from: its listings, pins and feeds go with it',
    params: idParam,
    answer: z.object({}),
  }),
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
    body: z.object({ maps: z.array(z.object({ category: z.string(), target: z.string().nullable() })).min(1) }),
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
    body: z.object({ fill: fillSchema.nullable() }),
    answer: channelAttributeSchema,
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
    body: z.object({ fill: fillSchema.nullable() }),
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
              kind: z.enum(['added', 'removed', 'changed']),
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
