/** Accounts on channels: joined, looked at, refreshed and let go. */
import { conditionSchema } from '@velvet-shelf/core/conditions';
import { exemptWays, joinWays } from '@velvet-shelf/core/rulebooks';
import { z } from 'zod';
import { effectSchema } from './effect.js';
import { endpoint, idParam, moment } from './endpoint.js';

/** Whether it can be used: joined; waiting for something on the channel’s side; never joined or let go; no more let in. */
export const accountStates = ['connected', 'pending', 'off', 'expired'] as const;
export const exemptionStates = ['asked', 'granted', 'refused'] as const;

export const accountAnswer = z.object({
  id: z.number(),
  name: z.string(),
  channelId: z.number(),
  channel: z.string(),
  /** The channel’s, where it keeps parts of the world apart; '' where none is chosen. */
  region: z.string(),
  regions: z.array(z.object({ key: z.string(), name: z.string() })),
  /** Markets that it may sell in, with the place it has there. */
  markets: z.array(
    z.object({
      ...{ key: z.string(), name: z.string(), language: z.string(), currency: z.string() },
      place: z.number().nullable(),
    }),
  ),
  /** What being connected lets us read there, and write: a sentence each. */
  reads: z.array(z.string()),
  writes: z.array(z.string()),
  /** Undefined where nothing is to be joined. */
  joins: z.enum(joinWays).nullable(),
  state: z.enum(accountStates),
  /** The channel has no service of its own that answers. */
  hasService: z.boolean(),
  /** What is missing on the channel’s side, in its words. */
  missing: z.array(z.string()),
  /** Per cent of orders. */
  late: z.number().nullable(),
  cancelled: z.number().nullable(),
  notices: z.array(z.string()),
  askedAt: moment.nullable(),
  /** What went wrong when it was last asked. */
  fault: z.string().nullable(),
  terms: z.array(
    z.object({
      kind: z.string(),
      kindLabel: z.string(),
      key: z.string(),
      label: z.string(),
      goneAt: moment.nullable(),
    }),
  ),
  /** Listings of its places that the channel shows now. */
  live: z.number(),
  /** Listings it knows by a number of its own. */
  linked: z.number(),
});
export type AccountAnswer = z.infer<typeof accountAnswer>;

const exemptionAnswer = z.object({
  id: z.number(),
  attribute: z.string(),
  label: z.string(),
  whom: z.string(),
  reason: z.string(),
  state: z.enum(exemptionStates),
  /** When it came to stand so. */
  at: moment,
  /** Listings it lets go without. */
  goods: z.number(),
});
export type ExemptionAnswer = z.infer<typeof exemptionAnswer>;

const secretText = z.string().trim().min(1, 'Fill this in').max(4000);

export const accounts = {
  show: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/accounts/:id',
    summary: 'An account: how it joins, its standing, its terms',
    params: idParam,
    answer: accountAnswer,
  }),
  askConsent: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/accounts/:id/consent',
    summary: 'Where a person agrees that we may act for the account; she comes back with a code',
    params: idParam,
    answer: z.object({ address: z.string() }),
  }),
  consented: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/accounts/consented',
    summary: 'Joins an account with the code one came back with',
    body: z.object({ state: secretText, code: secretText }),
    answer: accountAnswer,
  }),
  joinBySecret: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/accounts/:id/secret',
    summary: 'Joins an account with its id and secret',
    params: idParam,
    body: z.object({ id: secretText, secret: secretText }),
    answer: accountAnswer,
  }),
  joinByToken: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/accounts/:id/token',
    summary: 'Joins an account with the token that the channel gave once it had seen a feed',
    params: idParam,
    body: z.object({ token: secretText }),
    answer: accountAnswer,
  }),
  refresh: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/accounts/:id/refresh',
    summary: 'Asks the channel how the account stands, and which terms it has',
    params: idParam,
    answer: accountAnswer,
  }),
  letGo: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/accounts/:id/let-go',
    summary: 'Disconnects an account: what it is spoken to with is forgotten, listings and their links stay',
    params: idParam,
    answer: accountAnswer,
  }),
  exemptions: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/accounts/:id/exemptions',
    summary: 'Exemptions asked for, and attributes for which one can be',
    params: idParam,
    answer: z.object({
      items: z.array(exemptionAnswer),
      attributes: z.array(z.object({ key: z.string(), label: z.string(), by: z.array(z.enum(exemptWays)) })),
    }),
  }),
  askExemption: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/accounts/:id/exemptions',
    summary: 'Notes that the channel was asked to let goods go without an attribute',
    params: idParam,
    body: z.object({
      attribute: z.string(),
      by: z.enum(exemptWays),
      /** The maker, the SKU, or a name for goods that meet the condition. */
      whom: z.string().trim().min(1, 'Say whom').max(200),
      condition: conditionSchema.optional(),
      reason: z.string().trim().min(1, 'Give the reason').max(1000),
    }),
    answer: z.object({ id: z.number() }),
  }),
  setExemption: endpoint({
    role: 'publisher',
    method: 'PATCH',
    path: '/api/exemptions/:id',
    summary: 'Notes what the channel said; goods of a granted one go without the attribute',
    params: idParam,
    body: z.object({ state: z.enum(exemptionStates), was: z.enum(exemptionStates) }),
    answer: effectSchema,
  }),
  removeExemption: endpoint({
    role: 'publisher',
    method: 'DELETE',
    path: '/api/exemptions/:id',
    summary: 'Takes an exemption back',
    params: idParam,
    answer: effectSchema,
  }),
};
