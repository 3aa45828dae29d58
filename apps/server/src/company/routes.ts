import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { addSupplier, listSuppliers } from './suppliers.js';

export function companyRoutes(router: AppRouter, services: Services): void {
  const { db } = services;
  route(router, services, api.company.suppliers, async () => ({ items: await listSuppliers(db) }));
  route(router, services, api.company.addSupplier, async ({ body }) => ({ id: await addSupplier(db, body) }));
}
