import { api } from '@velvet-shelf/contract';
import { comparables } from '@velvet-shelf/core/listings';
import { loadDictionary } from '../dictionary/dictionary.js';
import { showAttribute } from '../dictionary/lists.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { showTree, showCategories, saveCategories } from './categories.js';
import { placedByChannel } from './placing.js';
import { wordsToTranslate } from './jobs.js';
import {
  askConsent,
  joinBySecret,
  joinByToken,
  joinConsented,
  letGo,
  refreshAccount,
  showAccount,
} from './accounts.js';
import { askExemption, listExemptions, removeExemption, setExemption } from './exemptions.js';
import { carryFills, fillsFile } from './carry.js';
import { comparedInCategories } from './compared.js';
import { saveFill, saveFills } from './fills.js';
import { addRulebook, categorySchema, readCategorySchema, rulebookFormat, showRulebooks } from './rulebooks.js';
import { savePresets } from './presets.js';
import { expectKnown, saveAssortment, showAssortment } from './assortment.js';
import { addChannel, listChannels, removeChannel } from './own.js';
import { addAccount, changeAccount, removeAccount } from './own-accounts.js';
import { addPlace, removePlace, renamePlace } from './own-places.js';
import { listShipped } from './shipped.js';
import { changeFields, readFields } from './reading.js';
import { showPlaces } from './service.js';
import { planRulebook, takeRulebook } from './taking.js';

export function channelRoutes(router: AppRouter, services: Services): void {
  const { channels } = api;
  const { db } = services;
  route(router, services, channels.list, async () => ({ items: await listChannels(db) }));
  route(router, services, channels.shipped, async () => ({ items: listShipped() }));
  route(router, services, channels.add, async ({ user, body }) => ({ id: await addChannel(services, user, body) }));
  route(router, services, channels.addPlace, async ({ user, params, body }) => {
    await expectKnown(db, body);
    return addPlace(services, user, params.id, body);
  });
  route(router, services, channels.renamePlace, async ({ user, params, body }) => {
    await renamePlace(services, user, params.id, body);
    return {};
  });
  route(router, services, channels.removePlace, async ({ user, params }) => {
    await removePlace(services, user, params.id);
    return {};
  });
  route(router, services, channels.addAccount, async ({ user, params, body }) => ({
    id: await addAccount(services, user, params.id, body),
  }));
  route(router, services, channels.removeAccount, async ({ user, params }) => {
    await removeAccount(services, user, params.id);
    return {};
  });
  route(router, services, channels.changeAccount, async ({ user, params, body }) => {
    await changeAccount(services, user, params.id, body);
    return {};
  });
  accountRoutes(router, services);
  route(router, services, channels.assortment, ({ params }) => showAssortment(db, params.id));
  route(router, services, channels.saveAssortment, ({ user, params, body }) =>
    saveAssortment(services, user, params.id, body),
  );
  route(router, services, channels.places, async () => ({ items: await showPlaces(services) }));
  route(router, services, channels.categories, async ({ params }) => ({
    items: await showCategories(services, params.id),
  }));
  route(router, services, channels.tree, ({ params }) => showTree(services, params.id));
  route(router, services, channels.placing, async ({ params, query }) => ({
    items: await placedByChannel(services, params.id, query.category),
  }));
  route(router, services, channels.mapCategory, ({ params, body, user }) =>
    saveCategories(services, user, params.id, body.maps, body.market),
  );
  route(router, services, channels.compared, async () => {
    const { attributes, home } = await loadDictionary(services.db);
    return { items: [...comparables(attributes).values()].map((attribute) => showAttribute(attribute, home)) };
  });
  route(router, services, channels.words, async ({ params, query }) => ({
    items: await apart(wordsToTranslate, services, {
      place: params.id,
      attribute: params.attribute,
      from: query.from,
    }),
  }));
  route(router, services, channels.saveFills, ({ params, body, user }) => saveFills(services, user, params.id, body));
  route(router, services, channels.fillsFile, ({ params }) => fillsFile(services, params.id));
  route(router, services, channels.carryFills, ({ params, body }) => carryFills(services, params.id, body));
  route(router, services, channels.saveFill, ({ params, body, user }) =>
    saveFill(services, user, params.id, { attribute: params.attribute, ...body }),
  );
  route(router, services, channels.savePresets, ({ params, body, user }) =>
    savePresets(services, user, params.id, body),
  );
  route(router, services, channels.rulebookFormat, async () => rulebookFormat());
  route(router, services, channels.categorySchema, ({ params, query }) =>
    categorySchema(services, params.id, params.rulebookId, query.category),
  );
  route(router, services, channels.readSchema, ({ params, body, user }) =>
    readCategorySchema(services, user, { placeId: params.id, rulebookId: params.rulebookId }, body),
  );
  route(router, services, channels.rulebooks, async ({ params }) => ({
    items: await showRulebooks(services, params.id),
  }));
  route(router, services, channels.comparedInCategories, async ({ params }) => ({
    items: await comparedInCategories(services, params.id, params.rulebookId),
  }));
  route(router, services, channels.fields, async ({ params, query }) => ({
    items: await readFields(services, { placeId: params.id, rulebookId: params.rulebookId }, query.category),
  }));
  route(router, services, channels.changeFields, ({ params, body, user }) =>
    changeFields(services, user, { placeId: params.id, rulebookId: params.rulebookId }, body),
  );
  route(router, services, channels.loadRulebook, ({ params, body, user }) =>
    addRulebook(services, user, params.id, body.rulebook),
  );
  route(router, services, channels.removeChannel, async ({ params, user }) => {
    await removeChannel(services, user, params.id);
    return {};
  });
  route(router, services, channels.planRulebook, async ({ params, body, user }) => {
    await planRulebook(services, user, params.id, params.rulebookId, body.takeOn);
    return {};
  });
  route(router, services, channels.takeRulebook, ({ params, body, user }) =>
    takeRulebook(services, user, params.id, params.rulebookId, body),
  );
}

function accountRoutes(router: AppRouter, services: Services): void {
  const { accounts } = api;
  const show = (id: number) => showAccount(services, id);
  route(router, services, accounts.show, ({ params }) => show(params.id));
  route(router, services, accounts.askConsent, async ({ user, params }) => ({
    address: await askConsent(services, user, params.id),
  }));
  route(router, services, accounts.consented, async ({ user, body }) =>
    show(await joinConsented(services, user, body)),
  );
  route(router, services, accounts.joinBySecret, async ({ user, params, body }) => {
    await joinBySecret(services, user, params.id, body);
    return show(params.id);
  });
  route(router, services, accounts.joinByToken, async ({ user, params, body }) => {
    await joinByToken(services, user, params.id, body.token);
    return show(params.id);
  });
  route(router, services, accounts.refresh, async ({ user, params }) => {
    await refreshAccount(services, user, params.id);
    return show(params.id);
  });
  route(router, services, accounts.exemptions, ({ params }) => listExemptions(services, params.id));
  route(router, services, accounts.askExemption, async ({ user, params, body }) => ({
    id: await askExemption(services, user, params.id, body),
  }));
  route(router, services, accounts.setExemption, ({ user, params, body }) =>
    setExemption(services, user, params.id, body),
  );
  route(router, services, accounts.removeExemption, ({ user, params }) => removeExemption(services, user, params.id));
  route(router, services, accounts.letGo, async ({ user, params }) => {
    await letGo(services, user, params.id);
    return show(params.id);
  });
}
