/** Channels of one's own: made, their accounts and places, and which goods a place gets. */
import { joinWays } from '@velvet-shelf/core/rulebooks';
import { conditionSchema } from '@velvet-shelf/core/conditions';
import { feedFormats } from '@velvet-shelf/core/feeds';
import { isCountry, isCurrency, readLanguage } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { accountStates } from './accounts.js';
import { effectSchema } from './effect.js';
import { endpoint, idParam } from './endpoint.js';

export const marketSchema = z.object({
  key: z.string(),
  name: z.string(),
  /** The region it is in, where the channel has any. */
  region: z.string().optional(),
  country: z.string(),
  language: z.string(),
  currency: z.string(),
});

export const channelSchema = z.object({
  id: z.number(),
  key: z.string(),
  name: z.string(),
  version: z.string(),
  /** Parts of the world it keeps apart: an account belongs to one of them. */
  regions: z.array(z.object({ key: z.string(), name: z.string() })),
  markets: z.array(marketSchema),
  categories: z.number(),
  attributes: z.number(),
  accounts: z.array(
    z.object({
      id: z.number(),
      name: z.string(),
      /** '' where the channel has none. */
      region: z.string(),
      /** Of the channel's own service; empty where nobody answers for it. */
      address: z.string(),
      state: z.enum(accountStates),
      /** How it is joined; null where nothing is. */
      joins: z.enum(joinWays).nullable(),
      places: z.array(z.object({ id: z.number(), name: z.string(), market: z.string() })),
    }),
  ),
});
export type ChannelAnswer = z.infer<typeof channelSchema>;

const lineSchema = z.string().trim().min(1, 'Give a name').max(200);

/** What people say of an account. */
const accountSchema = z.object({
  name: lineSchema,
  address: z.union([z.literal(''), z.url({ protocol: /^https?$/ })]),
  region: z.string().max(200),
});

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
  market: marketSchema.omit({ key: true, region: true }).extend({
    name: lineSchema,
    country: z.string().refine(isCountry, 'Choose a country'),
    language: z.string().refine((tag) => readLanguage(tag) === tag, 'Choose a language'),
    currency: z.string().refine(isCurrency, 'Choose a currency (ISO 4217)'),
  }),
  categories: z.array(z.array(lineSchema).min(1).max(20)).max(20_000),
  needsCategory: z.boolean(),
  formats: z.array(z.enum(feedFormats)).min(1, 'It takes one format at least'),
});

export const mostInHand = 20_000;
/** Goods put in or kept out by hand. */
export const handSchema = z
  .array(z.object({ product: z.number().int().positive(), isIn: z.boolean() }))
  .max(mostInHand);

/** The same as people read them. */
export const handedSchema = z.object({
  product: z.number(),
  isIn: z.boolean(),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  kind: z.string(),
});
export type Handed = z.infer<typeof handedSchema>;

/** A condition, and goods put in or kept out by hand. */
export const assortmentSchema = z.object({ condition: conditionSchema, hand: handSchema });
export type AssortmentBody = z.infer<typeof assortmentSchema>;

export const ownChannels = {
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
      /** The account it sells with; left out, the first that sells in the market. */
      account: z.number().int().positive().optional(),
      name: z.string().trim().max(120).default(''),
      condition: conditionSchema.default({ all: [] }),
    }),
    answer: z.object({ id: z.number(), effect: effectSchema }),
  }),
  addAccount: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/channels/:id/accounts',
    summary: 'A further account on a channel, in one of its regions where it has any',
    params: idParam,
    body: accountSchema,
    answer: z.object({ id: z.number() }),
  }),
  changeAccount: endpoint({
    role: 'publisher',
    method: 'PATCH',
    path: '/api/accounts/:id',
    summary: 'Rename an account, say the address of the channel’s own service, or its region before it is connected',
    params: idParam,
    body: z.object({
      to: accountSchema.partial(),
      was: z.object({ name: z.string(), address: z.string(), region: z.string() }).partial(),
    }),
    answer: z.object({}),
  }),
  removeAccount: endpoint({
    role: 'publisher',
    method: 'DELETE',
    path: '/api/accounts/:id',
    summary: 'Remove an account that is not connected and has no place; a channel keeps one',
    params: idParam,
    answer: z.object({}),
  }),
  assortment: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/assortment',
    summary: 'Which goods a place gets',
    params: idParam,
    answer: assortmentSchema.extend({
      hand: z.array(handedSchema),
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
  removeChannel: endpoint({
    role: 'publisher',
    method: 'DELETE',
    path: '/api/channels/:id',
    summary: 'Remove a channel without places: its rulebooks, category maps, fills and account go with it',
    params: idParam,
    answer: z.object({}),
  }),
};
