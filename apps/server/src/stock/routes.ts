import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { changeStock, showStock } from './service.js';

export function stockRoutes(router: AppRouter, services: Services): void {
  route(router, api.stock.show, ({ params }) => showStock(services.db, params.id));
  route(router, api.stock.change, ({ params, body, user }) => changeStock(services, user, params.id, body));
}
