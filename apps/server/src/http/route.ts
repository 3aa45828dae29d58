/** Joins an endpoint of the contract to a handler: parse → service → answer. */
import type { Endpoint } from '@velvet-shelf/contract';
import { keptText } from '@velvet-shelf/core/values';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type { ZodType, z } from 'zod';
import type { Config } from '../config.js';
import type { Database } from '../db/client.js';
import { Problem, badRequest, fromZod } from './problem.js';

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
    if (user?.role === 'viewer' && endpoint.method !== 'GET' && !endpoint.open && !endpoint.looks)
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
  const broken = pointerToBroken(value, `/${part}`);
  if (broken !== undefined) throw badRequest(`${broken}: ${brokenText}`, [{ pointer: broken, detail: brokenText }]);
  const read = schema.safeParse(value);
  if (!read.success) throw fromZod(read.error, part);
  return read.data as z.output<T>;
}

const brokenText = 'holds U+0000 or half a character, which is in no text';

/** Where a text, or the name of a member, is one that PostgreSQL cannot keep. */
function pointerToBroken(value: unknown, pointer: string): string | undefined {
  if (typeof value === 'string') return isBroken(value) ? pointer : undefined;
  if (typeof value !== 'object' || value === null) return undefined;
  for (const [key, member] of Object.entries(value)) {
    const found = isBroken(key) ? pointer : pointerToBroken(member, `${pointer}/${key}`);
    if (found !== undefined) return found;
  }
  return undefined;
}

const isBroken = (text: string) => keptText(text) !== text;
