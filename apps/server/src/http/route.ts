/** Joins an endpoint of the contract to a handler: role → parse → service → answer. */
import { type Endpoint, type Role, mayAs } from '@velvet-shelf/contract';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type { ZodType, z } from 'zod';
import type { Config } from '../config.js';
import type { Database } from '../db/client.js';
import { faultOf } from './bounds.js';
import { localeOf } from './locale.js';
import { onceFor } from './once.js';
import { Problem, badRequest, fromZod } from './problem.js';

export interface User {
  id: number;
  email: string;
  name: string;
  role: Role;
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
  /** What figures and dates are written for; undefined where the browser does not say. */
  locale: string | undefined;
  ctx: Context;
}

/** Answers what the contract says; of a file, what it sends it puts into the context by itself. */
export type Handler<E extends Endpoint> = (call: Call<E>) => Promise<z.input<E['answer']>>;

export function route<E extends Endpoint>(
  router: AppRouter,
  { db }: Pick<Services, 'db'>,
  endpoint: E,
  handler: Handler<E>,
): void {
  router.register(endpoint.path, [endpoint.method], async (ctx) => {
    const user = ctx.state.user as User;
    expectRole(ctx.state.user, endpoint.role);
    const call: Call<E> = {
      params: parse<E['params']>(endpoint.params, ctx.params, 'path'),
      query: parse<E['query']>(endpoint.query, ctx.query, 'query'),
      body: parse<E['body']>(endpoint.body, (ctx.request as { body?: unknown }).body ?? {}, 'body'),
      user,
      locale: localeOf(ctx),
      ctx,
    };
    if (endpoint.kind === 'file' || endpoint.kind === 'events') {
      await handler(call);
      return;
    }
    const work = async () => endpoint.answer.parse(await handler(call));
    ctx.body = endpoint.once ? await onceFor(ctx, db, user.id, work) : await work();
  });
}

/** Refuses whoever may not, with what would be needed. */
export function expectRole(user: User | undefined, role: Endpoint['role']): void {
  if (role === 'anyone') return;
  if (!user) throw new Problem(401, 'Sign in first', 'There is no session, or it has ended');
  if (!mayAs(user.role, role))
    throw new Problem(
      403,
      'Not allowed',
      user.role === 'viewer' && role === 'editor'
        ? 'A viewer looks at everything and changes nothing'
        : `This takes the role of ${role}; yours is ${user.role}. An owner can change it.`,
    );
}

function parse<T extends ZodType>(schema: T, value: unknown, part: string): z.output<T> {
  const fault = faultOf(value, `/${part}`);
  if (fault) throw badRequest(`${fault.pointer}: ${fault.detail}`, [fault]);
  const read = schema.safeParse(value);
  if (!read.success) throw fromZod(read.error, part);
  return read.data;
}
