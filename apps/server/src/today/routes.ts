import { api } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { and, like, ne, eq } from 'drizzle-orm';
import { containing } from '../db/client.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { openEvents } from '../http/events.js';
import { type Sessions, sessionOf, userOf } from '../session/service.js';
import { undoAction } from '../history/undo.js';
import { listActions, showShelf, showToday } from './service.js';
import * as tables from '../db/schema/index.js';

export const version = '0.1.0';

export function todayRoutes(router: AppRouter, services: Services, sessions: Sessions): void {
  route(router, services, api.today.shelf, () => showShelf(services));
  route(router, services, api.today.today, ({ user }) => showToday(services, user));
  route(router, services, api.today.history, ({ query }) => listActions(services, query.cursor));
  route(router, services, api.today.undo, ({ params, user }) => undoAction(services, user, params.id));
  route(router, services, api.today.search, async ({ query }) => ({
    items: await services.db
      .select({
        id: tables.product.id,
        kind: tables.product.kind,
        sku: tables.product.sku,
        title: tables.product.title,
      })
      .from(tables.product)
      .where(
        and(
          eq(tables.product.stands, true),
          like(tables.product.search, containing(foldText(query.q))),
          query.only && (query.only === 'families' ? eq : ne)(tables.product.kind, 'family'),
        ),
      )
      .orderBy(tables.product.kind, tables.product.title)
      .limit(query.limit),
  }));
  route(router, services, api.today.events, async ({ ctx, query }) => {
    const session = sessionOf(ctx) ?? '';
    openEvents(
      ctx,
      session,
      query.since,
      async () => (await userOf(sessions.db, services.config, session)) !== undefined,
    );
    return undefined;
  });
  route(router, services, api.today.health, async () => ({ status: 'ok' as const, version }));
}
