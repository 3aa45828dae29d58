import { type AttributeAnswer, api } from '@velvet-shelf/contract';
import {} from 'drizzle-orm';
import {} from '../db/client.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { loadDictionary } from './dictionary.js';
import { exportGrid } from './export.js';
import { saveEdits } from './edit.js';
import { countsOf, openView, windowOf } from './grid.js';
import { productHistory, showProduct } from './product.js';
import * as tables from '../db/schema/index.js';

export function catalogRoutes(router: AppRouter, services: Services): void {
  const { db, notify } = services;
  route(router, services, api.catalog.attributes, async () => ({
    items: [...(await loadDictionary(db)).attributes.values()].map((attribute): AttributeAnswer => ({ ...attribute })),
  }));
  route(router, services, api.catalog.categories, async () => ({
    items: await db
      .select({ path: tables.category.path, name: tables.category.name })
      .from(tables.category)
      .orderBy(tables.category.position, tables.category.path),
  }));
  route(router, services, api.catalog.open, ({ body }) => openView(db, body));
  route(router, services, api.catalog.window, async ({ params, query }) => ({
    items: await windowOf(db, params.token, query.from, query.count, query.columns.split(',').filter(Boolean)),
  }));
  route(router, services, api.catalog.counts, ({ params }) => countsOf(services, params.token));
  route(router, services, api.catalog.product, ({ params }) => showProduct(db, params.id));
  route(router, services, api.catalog.edit, async ({ params, body, user }) => {
    const effect = await saveEdits(services, user, [{ productId: params.id, edits: body.edits }]);
    notify('catalog');
    return { product: await showProduct(db, params.id), ...effect };
  });
  route(router, services, api.catalog.history, async ({ params }) => ({ items: await productHistory(db, params.id) }));

  route(router, services, api.catalog.export, async ({ ctx, query: { view, columns, format } }) => {
    const file = await exportGrid(db, {
      token: view || undefined,
      columns: columns?.split(',').filter(Boolean),
      format,
    });
    ctx.attachment(`velvet-shelf-goods-${new Date().toISOString().slice(0, 10)}.${format}`);
    ctx.type =
      format === 'csv'
        ? 'text/csv; charset=utf-8'
        : 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
    ctx.body = file;
    return undefined;
  });
}
