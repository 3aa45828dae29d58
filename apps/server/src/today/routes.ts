import { api } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { rows } from '../db/client.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { listActions, showShelf, showToday, undoAction } from './service.js';

export const version = '0.1.0';

export function todayRoutes(router: AppRouter, services: Services): void {
  route(router, api.today.shelf, () => showShelf(services));
  route(router, api.today.today, ({ user }) => showToday(services, user));
  route(router, api.today.history, ({ query }) => listActions(services, query.cursor));
  route(router, api.today.undo, ({ params, user }) => undoAction(services, user, params.id));
  route(router, api.today.search, async ({ query }) => ({
    items: await rows<{ id: number; kind: string; sku: string | null; title: string | null }>(
      services.db,
      sql`SELECT id, kind, sku, title FROM product WHERE merged_into IS NULL AND search LIKE ${`%${foldText(query.q).replace(/[\\%_]/g, '\\$&')}%`} ORDER BY kind, title LIMIT 8`,
    ),
  }));
  route(router, api.today.health, async () => ({ status: 'ok' as const, version }));
}
