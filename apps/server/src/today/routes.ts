import { api } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { containing, queryRows } from '../db/client.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { openEvents } from '../http/events.js';
import { type Sessions, sessionOf, userOf } from '../session/service.js';
import { undoAction } from '../history/undo.js';
import { listActions, showShelf, showToday } from './service.js';

export const version = '0.1.0';

export function todayRoutes(router: AppRouter, services: Services, sessions: Sessions): void {
  route(router, services, api.today.shelf, () => showShelf(services));
  route(router, services, api.today.today, ({ user }) => showToday(services, user));
  route(router, services, api.today.history, ({ query }) => listActions(services, query.cursor));
  route(router, services, api.today.undo, ({ params, user }) => undoAction(services, user, params.id));
  route(router, services, api.today.search, async ({ query }) => ({
    items: await queryRows<{ id: number; kind: string; sku: string | null; title: string | null }>(
      services.db,
      sql`SELECT id, kind, sku, title FROM product WHERE merged_into IS NULL AND search LIKE ${containing(foldText(query.q))} ORDER BY kind, title LIMIT 8`,
    ),
  }));
  route(router, services, api.today.events, async ({ ctx }) => {
    const session = sessionOf(ctx) ?? '';
    openEvents(ctx, session, async () => (await userOf(sessions.db, services.config, session)) !== undefined);
    return undefined;
  });
  route(router, services, api.today.health, async () => ({ status: 'ok' as const, version }));
}
