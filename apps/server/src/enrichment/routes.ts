import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { proposalsFor } from './proposals.js';

export function enrichmentRoutes(router: AppRouter, services: Services): void {
  route(router, services, api.enrichment.proposals, async ({ params, locale }) => ({
    items: await proposalsFor(services.db, params.id, locale),
  }));
}
