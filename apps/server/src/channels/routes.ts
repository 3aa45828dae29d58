import { api } from '@velvet-shelf/contract';
import { comparables } from '@velvet-shelf/core/listings';
import { loadDictionary } from '../catalog/dictionary.js';
import { showAttribute } from '../catalog/lists.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { showTree, showCategories, saveCategories } from './categories.js';
import { saveFill } from './fills.js';
import { showRulebooks, addRulebook, takeRulebook } from './rulebooks.js';
import { showPlaces } from './service.js';

export function channelRoutes(router: AppRouter, services: Services): void {
  const { channels } = api;
  route(router, services, channels.places, async () => ({ items: await showPlaces(services) }));
  route(router, services, channels.categories, async ({ params }) => ({
    items: await showCategories(services, params.id),
  }));
  route(router, services, channels.tree, ({ params }) => showTree(services, params.id));
  route(router, services, channels.mapCategory, ({ params, body, user }) =>
    saveCategories(services, user, params.id, body.maps),
  );
  route(router, services, channels.compared, async () => {
    const { attributes, home } = await loadDictionary(services.db);
    return { items: [...comparables(attributes).values()].map((attribute) => showAttribute(attribute, home)) };
  });
  route(router, services, channels.saveFill, ({ params, body, user }) =>
    saveFill(services, user, params.id, params.attribute, body.fill),
  );
  route(router, services, channels.rulebooks, async ({ params }) => ({
    items: await showRulebooks(services, params.id),
  }));
  route(router, services, channels.loadRulebook, ({ params, body, user }) =>
    addRulebook(services, user, params.id, body.rulebook),
  );
  route(router, services, channels.takeRulebook, ({ params, body, user }) =>
    takeRulebook(services, user, params.id, params.rulebookId, body),
  );
}
