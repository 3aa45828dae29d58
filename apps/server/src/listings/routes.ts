import { api } from '@velvet-shelf/contract';
import { expectKnown } from '../channels/assortment.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { askedOf } from './asked.js';
import { listFills, listGoods, tryFill } from './fills.js';
import { tryAssortment, tryChange, tryPins, tryPresetMany, tryRulebook } from './jobs.js';
import { pinMany } from './pin-many.js';
import { setPin } from './pins.js';
import { presetMany } from './preset-many.js';
import { listPresets, tryPresets } from './presets.js';
import { listListings, showListing, traceValue } from './service.js';

export function listingRoutes(router: AppRouter, services: Services): void {
  const { channels } = api;
  route(router, services, channels.fills, ({ params, query }) => listFills(services, params.id, query.within));
  route(router, services, channels.fillGoods, ({ params, body }) =>
    listGoods(services, { placeId: params.id, attribute: params.attribute, ...body }),
  );
  route(router, services, channels.tryFill, ({ params, body }) =>
    tryFill(services, params.id, { attribute: params.attribute, ...body }),
  );
  route(router, services, channels.tryFills, ({ params, body }) =>
    apart(tryChange, services, {
      placeId: params.id,
      change: { fills: body.fills },
    }),
  );
  route(router, services, channels.tryCategories, ({ params, body }) =>
    apart(tryChange, services, {
      placeId: params.id,
      change: {
        categories: new Map(body.maps.map(({ category, ...to }) => [category, to])),
        ...(body.market === '' ? {} : { mapsIn: body.market }),
      },
    }),
  );
  route(router, services, channels.tryRulebook, ({ params }) =>
    apart(tryRulebook, services, { placeId: params.id, rulebookId: params.rulebookId }),
  );
  route(router, services, channels.tryAssortment, async ({ params, body }) => {
    await expectKnown(services.db, body);
    return apart(tryAssortment, services, { placeId: params.id, assortment: body });
  });
  route(router, services, channels.presets, async ({ params }) => ({ items: await listPresets(services, params.id) }));
  route(router, services, channels.tryPresets, ({ params, body }) => tryPresets(services, params.id, body.presets));
  route(router, services, api.asked.ofProduct, ({ params, locale }) => askedOf(services, params.id, locale));
  route(router, services, api.listings.tryPins, ({ user, body }) =>
    apart(tryPins, services, { user: { id: user.id }, input: body }),
  );
  route(router, services, api.listings.pinMany, ({ user, body }) => pinMany(services, user, body));
  route(router, services, api.listings.tryPresetMany, ({ user, body }) =>
    apart(tryPresetMany, services, { user: { id: user.id }, input: body }),
  );
  route(router, services, api.listings.presetMany, ({ user, body }) => presetMany(services, user, body));
  route(router, services, api.listings.list, ({ query }) => listListings(services, query));
  route(router, services, api.listings.listing, ({ params }) => showListing(services, params.id));
  route(router, services, api.listings.pin, async ({ params, body, user }) => {
    await setPin(services, user, params.id, params.attribute, body);
    return showListing(services, params.id);
  });
  route(router, services, api.listings.trace, ({ params, locale }) =>
    traceValue(services, params.id, { attribute: params.attribute, locale }),
  );
}
