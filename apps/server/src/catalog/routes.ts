import { api } from '@velvet-shelf/contract';
import { withRole } from '@velvet-shelf/core/values';
import { type AppRouter, type Services, route } from '../http/route.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { optionsOf, showAttribute } from '../dictionary/lists.js';
import { exportGrid } from './export.js';
import { apart, apartWhere } from '../jobs/aside.js';
import { tryComputed } from './computed.js';
import { saveEdits } from './edit.js';
import { saveCells, sayCells, tryCells, tryOptionChange, trySaid } from './jobs.js';
import { saveOptions } from './options.js';
import { bringBack, putAside } from './aside.js';
import { countChosen } from './chosen.js';
import { besideOf, countsOf, openView, stockLeftOut, viewIds, windowOf } from './grid.js';
import { compareMoments, putBack } from './moments.js';
import { changeView, keepView, listSavedViews, removeView } from './saved-views.js';
import { sheetColumns, sheetRows } from './sheet.js';
import { productHistory, showProduct } from './product.js';
import { otherGoodsOf } from './substitutes.js';

/** As many products as are saved where they are asked for; more are in a thread. */
const mostHere = 50;

export function catalogRoutes(router: AppRouter, services: Services): void {
  const { db, notify } = services;
  route(router, services, api.catalog.attributes, async () => {
    const { attributes, home } = await loadDictionary(db);
    return { items: [...attributes.values()].map((attribute) => showAttribute(attribute, home)) };
  });
  route(router, services, api.dictionary.tryComputed, ({ body, locale }) => tryComputed(db, body, locale));
  route(router, services, api.catalog.categories, async () => {
    const { attributes, home } = await loadDictionary(db);
    const [own] = withRole(attributes, 'category');
    return { items: (own && optionsOf(own, home)) ?? [] };
  });
  const listed = (columns: string) => columns.split(',').filter(Boolean);
  route(router, services, api.catalog.open, ({ body: { columns, ...view }, locale }) =>
    openView(db, view, { columns: listed(columns), locale }),
  );
  route(router, services, api.catalog.size, async ({ params }) => ({ rows: (await viewIds(db, params.token)).length }));
  route(router, services, api.catalog.window, async ({ params, query, locale }) => ({
    items: await windowOf(db, params.token, { ...query, columns: listed(query.columns), locale }),
  }));
  route(router, services, api.catalog.beside, ({ params }) => besideOf(db, params.token, params.id));
  route(router, services, api.catalog.counts, ({ params }) => countsOf(db, params.token));
  route(router, services, api.catalog.product, ({ params, locale }) => showProduct(db, params.id, locale));
  route(router, services, api.catalog.otherGoods, ({ params, locale }) => otherGoodsOf(db, params.id, locale));
  route(router, services, api.catalog.compare, async ({ params, query, locale }) => ({
    items: await compareMoments(db, params.id, query, locale),
  }));
  route(router, services, api.catalog.putBack, async ({ params, body, user }) => {
    const effect = await putBack(services, user, params.id, body);
    notify('catalog');
    return effect;
  });
  route(router, services, api.catalog.edit, async ({ params, body, user }) => {
    const effect = await saveEdits(services, user, [{ productId: params.id, edits: body.edits }]);
    notify('catalog');
    return effect;
  });
  route(router, services, api.catalog.history, async ({ params, locale }) => ({
    items: await productHistory(db, params.id, locale),
  }));

  route(router, services, api.options.save, ({ params, body, user }) => saveOptions(services, user, params.id, body));
  route(router, services, api.options.tryOut, ({ params, body, user }) =>
    apart(tryOptionChange, services, { user: user.id, family: params.id, change: body }),
  );

  route(router, services, api.bulk.count, ({ body }) => countChosen(db, body.chosen));
  route(router, services, api.bulk.setAside, ({ body, user }) => putAside(services, user, body.chosen, body.aside));
  route(router, services, api.bulk.bringBack, ({ body, user }) => bringBack(services, user, body.chosen));
  route(router, services, api.bulk.leftOutWithStock, async ({ params }) => ({
    rows: await stockLeftOut(db, params.token),
  }));
  route(router, services, api.bulk.trySay, ({ body, user }) => apart(trySaid, services, { user: user.id, said: body }));
  route(router, services, api.bulk.say, async ({ body, user }) => {
    const { chosen } = body;
    const isMuch = !('rows' in chosen) || chosen.rows.length > mostHere;
    const effect = await apartWhere(isMuch, sayCells, services, { user, said: body });
    notify('catalog');
    return effect;
  });

  route(router, services, api.savedViews.list, async ({ user }) => ({ items: await listSavedViews(db, user) }));
  route(router, services, api.savedViews.keep, async ({ user, body }) => ({
    id: await keepView(services, user, body),
  }));
  route(router, services, api.savedViews.change, async ({ user, params, body }) => {
    await changeView(services, user, params.id, body);
    return {};
  });
  route(router, services, api.savedViews.remove, async ({ user, params }) => {
    await removeView(services, user, params.id);
    return {};
  });
  route(router, services, api.sheet.columns, async () => ({ items: await sheetColumns(services) }));
  route(router, services, api.sheet.rows, async ({ params, query }) => ({
    items: await sheetRows(services, params.token, { ...query, columns: query.columns.split(',').filter(Boolean) }),
  }));
  route(router, services, api.sheet.tryOut, ({ body, user }) =>
    apart(tryCells, services, { user: user.id, products: body.products }),
  );
  route(router, services, api.sheet.save, async ({ body, user }) => {
    const { products } = body;
    const effect = await apartWhere(products.length > mostHere, saveCells, services, { user, products });
    notify('catalog');
    return effect;
  });

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
