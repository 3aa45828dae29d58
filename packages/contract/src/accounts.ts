/** Accounts on channels: joined, looked at, refreshed and let go. */
import { joinWays } from '@velvet-shelf/core/rulebooks';
import { z } from 'zod';
import { endpoint, idParam, moment } from './endpoint.js';

export const accountAnswer = z.object({
  id: z.number(),
  name: z.string(),
  channel: z.string(),
  /** Undefined where nothing is to be joined. */
  joins: z.enum(joinWays).nullable(),
  state: z.enum(['connected', 'pending', 'off', 'expired']),
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
};
