import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { listWarehouses, setServing } from './serves.js';
import { addWarehouses, changeWarehouse } from './warehouses.js';
import { changeStock, showStock } from './service.js';

export function stockRoutes(router: AppRouter, services: Services): void {
  route(router, services, api.stock.show, ({ params }) => showStock(services.db, params.id));
  route(router, services, api.stock.warehouses, async () => ({ items: await listWarehouses(services.db) }));
  route(router, services, api.stock.serve, async ({ params, body, user }) => {
    await setServing(services, user, params.id, body);
    return { items: await listWarehouses(services.db) };
  });
  route(router, services, api.stock.addWarehouse, async ({ user, body }) => ({
    id: (await addWarehouses(services, user, [body.name]))[0] ?? 0,
  }));
  route(router, services, api.stock.addWarehouses, async ({ user, body }) => ({
    ids: await addWarehouses(services, user, body.names),
  }));
  route(router, services, api.stock.changeWarehouse, async ({ user, params, body }) => {
    await changeWarehouse(services, user, params.id, body);
    return {};
  });
  route(router, services, api.stock.change, ({ params, body, user }) => changeStock(services, user, params.id, body));
}
