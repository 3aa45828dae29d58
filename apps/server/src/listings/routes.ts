import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { setPin } from './pins.js';
import { listListings, showListing, traceValue } from './service.js';

export function listingRoutes(router: AppRouter, services: Services): void {
  route(router, services, api.listings.list, ({ query }) => listListings(services, query));
  route(router, services, api.listings.listing, ({ params }) => showListing(services, params.id));
  route(router, services, api.listings.pin, async ({ params, body, user }) => {
    await setPin(services, user, params.id, params.attribute, body);
    return showListing(services, params.id);
  });
  route(router, services, api.listings.trace, ({ params }) => traceValue(services, params.id, params.attribute));
}
