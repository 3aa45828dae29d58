import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { loadCompany } from './settings.js';
import { addSupplier, changeSupplier, listSuppliers } from './suppliers.js';

export function companyRoutes(router: AppRouter, services: Services): void {
  const { db } = services;
  route(router, services, api.company.suppliers, async () => ({ items: await listSuppliers(db) }));
  route(router, services, api.company.addSupplier, async ({ user, body }) => ({
    id: await addSupplier(services, user, body),
  }));
  route(router, services, api.company.changeSupplier, async ({ user, params, body }) => {
    await changeSupplier(services, user, params.id, body);
    return {};
  });
  route(router, services, api.company.show, () => loadCompany(db));
}
