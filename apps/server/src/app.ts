/** The Koa application: small middleware, then the routes of every capability. */
import { existsSync } from 'node:fs';
import { join, normalize } from 'node:path';
import Router from '@koa/router';
import { api } from '@velvet-shelf/contract';
import Koa, { type Context, type Next } from 'koa';
import compress from 'koa-compress';
import send from 'koa-send';
import type { Logger } from 'pino';
import type { Config } from './config.js';
import { askFor } from './db/askers.js';
import { type Database, isCode } from './db/client.js';
import { catalogRoutes } from './catalog/routes.js';
import { causeRoutes } from './causes/routes.js';
import { channelRoutes } from './channels/routes.js';
import { dictionaryRoutes } from './dictionary/routes.js';
import { enrichmentRoutes } from './enrichment/routes.js';
import { feedRoutes } from './feeds/routes.js';
import { companyRoutes } from './company/routes.js';
import { intakeRoutes } from './intake/routes.js';
import { listingRoutes } from './listings/routes.js';
import { isConnectionLoss } from './jobs/run.js';
import { movingInRoutes } from './moving-in/routes.js';
import { fileRoutes } from './files/routes.js';
import { pictureRoutes } from './pictures/routes.js';
import { matchingRoutes } from './matching/routes.js';
import { type Sessions, isSecure, sessionOf, userOf } from './session/service.js';
import { sessionRoutes } from './session/routes.js';
import { stockRoutes } from './stock/routes.js';
import { todayRoutes, version } from './today/routes.js';
import { jsonBody } from './http/body.js';
import { openApi } from './http/openapi.js';
import { Problem, notFound } from './http/problem.js';
import type { Services, State } from './http/route.js';

/** What the application stands on: the services, and connections apart for sessions and health. */
export interface Ground {
  services: Services;
  sessions: Sessions;
  log: Logger;
}

export function createApp({ services, sessions, log }: Ground): Koa<State> {
  const { config } = services;
  const app = new Koa<State>({ proxy: config.isBehindProxy });
  // Streams of browsers that went away are no errors; what matters is logged by `problems`.
  app.on('error', (error) => log.debug({ err: error }, 'a connection ended early'));
  app.use(problems(log));
  app.use(securityHeaders(config));
  app.use(knownHost(config));
  app.use(
    compress({
      threshold: 2048,
      filter: (type) => !/event-stream|rss|tab-separated|csv/.test(type) && /json|text|javascript|css|svg/.test(type),
    }),
  );
  app.use(sameOrigin);
  app.use(async (ctx, next) => {
    const session = ctx.path.startsWith('/api/') ? sessionOf(ctx) : undefined;
    const user = session === undefined ? undefined : await userOf(sessions.db, config, session);
    if (user) ctx.state.user = user;
    await next();
  });
  app.use(jsonBody);
  app.use(whileAsked(sessions.db));

  const router = new Router<State>();
  sessionRoutes(router, services, sessions);
  todayRoutes(router, services, sessions);
  companyRoutes(router, services);
  dictionaryRoutes(router, services);
  intakeRoutes(router, services);
  stockRoutes(router, services);
  matchingRoutes(router, services);
  catalogRoutes(router, services);
  enrichmentRoutes(router, services);
  pictureRoutes(router, services);
  fileRoutes(router, services);
  channelRoutes(router, services);
  listingRoutes(router, services);
  causeRoutes(router, services);
  feedRoutes(router, services);
  movingInRoutes(router, services);
  router.get('/api/openapi.json', (ctx) => {
    ctx.body = openApi(version);
  });
  app.use(router.routes());
  app.use(async (ctx, next) => {
    if (ctx.path.startsWith('/api/')) throw notFound(`${ctx.method} ${ctx.path.slice(0, 200)}`);
    await next();
  });
  if (config.web) app.use(webApplication(config.web));
  return app;
}

/** What only looks is stopped when whoever asked has gone; what changes something is brought to its end. */
function whileAsked(sessions: Database) {
  return (ctx: Context, next: Next) =>
    askFor(sessions.$client, async (stop) => {
      const isLooking = ctx.method === 'GET' || ctx.path === api.catalog.open.path;
      const onClose = () => {
        if (!ctx.res.writableFinished && isLooking) stop();
      };
      ctx.res.once('close', onClose);
      try {
        await next();
      } finally {
        ctx.res.off('close', onClose);
      }
    });
}

/** Errors people cause become problem details; others are logged and told without their insides. */
function problems(log: Logger) {
  return async (ctx: Context, next: Next) => {
    try {
      await next();
    } catch (error) {
      const problem = error instanceof Problem ? error : (databaseProblem(error) ?? requestProblem(error));
      if (!problem) log.error({ err: error, path: ctx.path }, 'unexpected');
      const answer =
        problem ?? new Problem(500, 'Something went wrong here', 'Nothing was changed. The server’s log says more.');
      ctx.status = answer.status;
      ctx.type = 'application/problem+json';
      ctx.body = answer.body;
    }
  };
}

/** Two people or jobs at the same rows at once, or a database that is starting again: try again. */
function databaseProblem(error: unknown): Problem | undefined {
  const code = (error as { cause?: { code?: string }; code?: string }).cause?.code ?? (error as { code?: string }).code;
  if (isCode(error, '57014'))
    return new Problem(
      503,
      'This takes too long',
      'It was stopped; nothing was changed. Ask for less at once, or try again later.',
    );
  // Numbers and dates beyond what is kept (class 22), such as a date of no calendar.
  if (/^22/.test(code ?? ''))
    return new Problem(400, 'The request cannot be used', 'It names a number or a date beyond all bounds');
  if (code === '40P01' || code === '40001')
    return new Problem(409, 'Somebody else was at the same rows', 'Nothing was changed. Try again.');
  if (isConnectionLoss(error))
    return new Problem(503, 'The database is away', 'It may be starting again. Try again in a moment.');
  return undefined;
}

/** What Koa and its parts refuse by themselves, such as an address that is no UTF-8. */
function requestProblem(error: unknown): Problem | undefined {
  const { status, message } = error as { status?: number; message: string };
  if (status === 404) return new Problem(404, 'Not found', 'There is no such file here; load the page again');
  return status !== undefined && status >= 400 && status < 500
    ? new Problem(status, 'The request cannot be used', message)
    : undefined;
}

function securityHeaders(config: Config) {
  return async (ctx: Context, next: Next): Promise<void> => {
    ctx.set('X-Content-Type-Options', 'nosniff');
    ctx.set('Referrer-Policy', 'same-origin');
    ctx.set('X-Frame-Options', 'DENY');
    ctx.set(
      'Content-Security-Policy',
      "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
    );
    if (isSecure(ctx, config)) ctx.set('Strict-Transport-Security', 'max-age=31536000; includeSubDomains');
    // Answers are somebody's own: no cache between keeps them.
    if (ctx.path.startsWith('/api/')) ctx.set('Cache-Control', 'no-store');
    await next();
  };
}

/** A name we are not reached under is somebody's page that points its own name at us. */
function knownHost({ hosts }: Config) {
  return async (ctx: Context, next: Next): Promise<void> => {
    const host = ctx.host.toLowerCase();
    if (!hosts.has(host) && !hosts.has(host.replace(/:\d+$/, '')))
      throw new Problem(
        421,
        'Not under this name',
        'This server does not answer under that name; VELVET_HOSTS lists those it has',
      );
    await next();
  };
}

/** A request that changes something must come from our own pages (Origin), or from no page at all. */
async function sameOrigin(ctx: Context, next: Next): Promise<void> {
  const origin = ctx.get('origin');
  if (!['GET', 'HEAD', 'OPTIONS'].includes(ctx.method) && origin !== '') {
    const host = URL.canParse(origin) ? new URL(origin).host : '';
    if (host !== ctx.host) throw new Problem(403, 'Not from here', `Requests from ${origin} are not taken`);
  }
  await next();
}

/** Files of the built web application; every other address is the application itself. */
function webApplication(root: string) {
  return async (ctx: Context) => {
    const path = ctx.path === '/' ? '/index.html' : ctx.path;
    if (path.startsWith('/assets/')) {
      await send(ctx, path, { root, immutable: true, maxAge: 31_536_000_000 });
      return;
    }
    const exists = path !== '/index.html' && existsSync(join(root, normalize(path))) && path.includes('.');
    await send(ctx, exists ? path : '/index.html', { root });
    if (!exists) ctx.set('Cache-Control', 'no-cache');
  };
}
