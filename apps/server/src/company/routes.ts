import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { listRates, setRate } from './rates.js';
import { loadCompany } from './settings.js';
import { addSuppliers, changeSupplier, listSuppliers } from './suppliers.js';

export function companyRoutes(router: AppRouter, services: Services): void {
  const { db } = services;
  route(router, services, api.company.suppliers, async () => ({ items: await listSuppliers(db) }));
  route(router, services, api.company.addSupplier, async ({ user, body }) => ({
    id: (await addSuppliers(services, user, [body]))[0] ?? 0,
  }));
  route(router, services, api.company.addSuppliers, async ({ user, body }) => ({
    ids: await addSuppliers(services, user, body.suppliers),
  }));
  route(router, services, api.company.changeSupplier, async ({ user, params, body }) => {
    await changeSupplier(services, user, params.id, body);
    return {};
  });
  route(router, services, api.company.rates, async () => ({ items: await listRates(db) }));
  route(router, services, api.company.setRate, ({ user, body }) => setRate(services, user, body));
  route(router, services, api.company.show, () => loadCompany(db));
}
