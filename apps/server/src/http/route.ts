/** Joins an endpoint of the contract to a handler: parse → service → answer. */
import type { Endpoint } from '@velvet-shelf/contract';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type { ZodType, z } from 'zod';
import type { Config } from '../config.js';
import type { Database } from '../db/client.js';
import { Problem, fromZod } from './problem.js';

export interface User {
  id: number;
  email: string;
  name: string;
  role: 'owner' | 'editor' | 'publisher' | 'viewer';
  lastVisit: string | null;
}

/** What every service gets. */
export interface Services {
  db: Database;
  config: Config;
  /** Tells browsers that something changed. */
  notify(topic: string, detail?: Record<string, unknown>): void;
}

export interface State {
  user?: User;
}
export type AppRouter = Router<State>;

export interface Call<E extends Endpoint> {
  params: z.output<E['params']>;
  query: z.output<E['query']>;
  body: z.output<E['body']>;
  user: User;
  ctx: Context;
}

export type Handler<E extends Endpoint> = (call: Call<E>) => Promise<z.input<E['answer']>>;

export function route<E extends Endpoint>(router: AppRouter, endpoint: E, handler: Handler<E>): void {
  router.register(endpoint.path, [endpoint.method], async (ctx) => {
    const user = ctx.state.user;
    if (!user && !endpoint.open) throw new Problem(401, 'Sign in first', 'There is no session, or it has ended');
    if (user?.role === 'viewer' && endpoint.method !== 'GET')
      throw new Problem(403, 'Not allowed', 'A viewer looks at everything and changes nothing');
    const answer = await handler({
      params: parse<E['params']>(endpoint.params, ctx.params, 'path'),
      query: parse<E['query']>(endpoint.query, ctx.query, 'query'),
      body: parse<E['body']>(endpoint.body, (ctx.request as { body?: unknown }).body ?? {}, 'body'),
      user: user as User,
      ctx,
    });
    ctx.body = endpoint.answer.parse(answer);
  });
}

function parse<T extends ZodType>(schema: T, value: unknown, part: string): z.output<T> {
  const read = schema.safeParse(value);
  if (!read.success) throw fromZod(read.error, part);
  return read.data as z.output<T>;
}
