import { z } from 'zod';
import { mostBulk } from './bulk.js';
import { effectSchema } from './effect.js';
import { cursorQuery, endpoint, idParam, page, rowNumber, rowNumberText } from './endpoint.js';
import { fillAtSchema } from './fills.js';

export const findingSchema = z.object({
  check: z.string(),
  severity: z.enum(['blocker', 'advice']),
  attribute: z.string(),
  words: z.string(),
  cause: z.string(),
});
export type FindingAnswer = z.infer<typeof findingSchema>;

export const listingRowSchema = z.object({
  id: z.number(),
  placeId: z.number(),
  place: z.string(),
  variantId: z.number(),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  readiness: z.enum(['blocked', 'ready', 'not for this channel']),
  channelState: z.string(),
  category: z.string().nullable(),
  findings: z.array(findingSchema),
  notFor: z.string().nullable(),
  /** Names of what is set by hand for it alone. */
  pinned: z.array(z.string()),
});
export type ListingRow = z.infer<typeof listingRowSchema>;

export const listingSchema = listingRowSchema.extend({
  picture: z.string().nullable(),
  /** The channel's own number of the item, and where a shopper sees it. */
  externalId: z.string().nullable(),
  liveAddress: z.string().nullable(),
  values: z.array(
    z.object({
      attribute: z.string(),
      label: z.string(),
      need: z.string(),
      value: z.string().nullable(),
      /** Markup the channel takes there; null where it does not tell. */
      tags: z.array(z.string()).nullable(),
      /** What is pinned, as it was typed; null = it follows its fill. */
      pinned: z.string().nullable(),
      findings: z.array(findingSchema),
    }),
  ),
});
export type ListingAnswer = z.infer<typeof listingSchema>;

export const traceStepSchema = z.object({
  at: z.enum(['channel', 'pin', 'fill', 'fit', 'catalog', 'claim', 'row']),
  words: z.string(),
  value: z.string().nullable(),
  /** Where one would change it. */
  edit: z
    .discriminatedUnion('to', [
      fillAtSchema.extend({ to: z.literal('fill'), placeId: z.number(), attribute: z.string() }),
      z.object({ to: z.literal('product'), productId: z.number(), attribute: z.string() }),
      z.object({ to: z.literal('stock'), productId: z.number() }),
      z.object({ to: z.literal('batch'), batchId: z.number(), row: z.number() }),
    ])
    .nullable(),
});
export type TraceAnswer = z.infer<typeof traceStepSchema>;

/** Which listings are looked at. */
const listingFilter = {
  place: rowNumberText.optional(),
  readiness: z.enum(['blocked', 'ready', 'not for this channel']).optional(),
  channelState: z.string().optional(),
  /** Those that are ready and not sent, or refused or withdrawn. */
  toSend: z.enum(['yes']).optional(),
  /** Those with a value set by hand for them alone. */
  pinned: z.enum(['yes']).optional(),
  cause: z.string().optional(),
  search: z.string().max(200).optional(),
};

const whichListings = z.union([
  z.strictObject({ ids: z.array(rowNumber).min(1).max(mostBulk) }),
  z.strictObject({
    all: z.object({ ...listingFilter, place: rowNumber.optional() }),
    except: z.array(rowNumber).max(mostBulk).default([]),
  }),
]);

/** Goods of many listings put into a preset at once, or kept out of it, whatever its condition says. */
const presetManySchema = z.object({ which: whichListings, preset: rowNumber, isIn: z.boolean() });

/** A value pinned for many listings at once, or let go (`text` null). */
const pinManySchema = z.object({
  which: whichListings,
  attribute: z.string().max(200),
  text: z.string().max(20_000).nullable(),
});

/** How many it changes; the others have it so already, or their channel has no such attribute or preset. */
const changedManySchema = effectSchema.extend({ changed: z.number(), same: z.number(), without: z.number() });

export const listings = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/listings',
    summary: 'Listings of a place or of all',
    query: cursorQuery.extend(listingFilter),
    answer: page(listingRowSchema).extend({ total: z.number() }),
  }),
  listing: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/listings/:id',
    summary: 'One listing with its values',
    params: idParam,
    answer: listingSchema,
  }),
  tryPins: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/listings/pins/try',
    summary: 'What pinning a value for many listings, or letting it go, would do; not saved',
    body: pinManySchema,
    answer: changedManySchema,
  }),
  pinMany: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/listings/pins',
    summary: 'Pin a value for many listings at once, or let them follow their fills again; one action',
    body: pinManySchema,
    answer: changedManySchema,
  }),
  tryPresetMany: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/listings/presets/try',
    summary: 'What putting the goods of many listings into a preset, or keeping them out, would do; not saved',
    body: presetManySchema,
    answer: changedManySchema,
  }),
  presetMany: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/listings/presets',
    summary: 'Put the goods of many listings into a preset at once, or keep them out; one action',
    body: presetManySchema,
    answer: changedManySchema,
  }),
  pin: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/listings/:id/pins/:attribute',
    summary: 'Pin a value for one listing alone; text null lets it follow its fill again',
    params: idParam.extend({ attribute: z.string() }),
    body: z.object({ text: z.string().max(20_000).nullable(), madeAgainst: z.string().nullable() }),
    answer: listingSchema,
  }),
  trace: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/listings/:id/trace/:attribute',
    summary: 'The path of a value back to the supplier’s cell',
    params: idParam.extend({ attribute: z.string() }),
    answer: z.object({ label: z.string(), steps: z.array(traceStepSchema) }),
  }),
};
