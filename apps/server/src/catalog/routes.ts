import { type AttributeAnswer, api } from '@velvet-shelf/contract';
import { sql } from 'drizzle-orm';
import { rows } from '../db/client.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { loadDictionary } from './dictionary.js';
import { exportGrid } from './export.js';
import { Problem, badRequest } from '../http/problem.js';
import { saveEdits } from './edit.js';
import { countsOf, openView, windowOf } from './grid.js';
import { productHistory, showProduct } from './product.js';

export function catalogRoutes(router: AppRouter, { db, config, notify }: Services): void {
  route(router, api.catalog.attributes, async () => ({
    items: [...(await loadDictionary(db)).attributes.values()].map((one): AttributeAnswer => ({ ...one })),
  }));
  route(router, api.catalog.categories, async () => ({
    items: await rows<{ path: string; name: string }>(db, sql`SELECT path, name FROM category ORDER BY position, path`),
  }));
  route(router, api.catalog.open, ({ body }) => openView(db, body));
  route(router, api.catalog.window, async ({ params, query }) => ({
    items: await windowOf(db, params.token, query.from, query.count, query.columns.split(',').filter(Boolean)),
  }));
  route(router, api.catalog.counts, ({ params }) => countsOf(db, params.token));
  route(router, api.catalog.product, ({ params }) => showProduct(db, params.id));
  route(router, api.catalog.edit, async ({ params, body, user }) => {
    const effect = await saveEdits(db, config.address, user, [{ productId: params.id, edits: body.edits }]);
    notify('catalog');
    return { product: await showProduct(db, params.id), ...effect };
  });
  route(router, api.catalog.history, async ({ params }) => ({ items: await productHistory(db, params.id) }));

  // A file does not fit the JSON contract: the grid as CSV or XLSX, with stable column keys.
  router.get('/api/export', async (ctx) => {
    if (!ctx.state.user) throw new Problem(401, 'Sign in first', 'There is no session, or it has ended');
    const { view, columns, format = 'csv' } = ctx.query as Record<string, string | undefined>;
    if (format !== 'csv' && format !== 'xlsx') throw badRequest(`“${format}” is no format; choose csv or xlsx`);
    ctx.attachment(`velvet-shelf-goods-${new Date().toISOString().slice(0, 10)}.${format}`);
    ctx.type =
      format === 'csv'
        ? 'text/csv; charset=utf-8'
        : 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
    ctx.body = await exportGrid(db, { token: view || undefined, columns: columns?.split(',').filter(Boolean), format });
  });
}
