import { api } from '@velvet-shelf/contract';
import { eq } from 'drizzle-orm';
import { first } from '../db/client.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { addToDictionary, changeAttribute, countUses, listDictionary } from './attributes.js';
import { apart } from '../jobs/aside.js';
import { tryKindAside } from './jobs.js';
import { changeKind } from './kind.js';
import { mergeAttribute, mergeValue } from './merge.js';
import { addToList, changeValue, listValues, moveValue } from './values.js';
import * as tables from '../db/schema/index.js';

export function dictionaryRoutes(router: AppRouter, services: Services): void {
  const { dictionary } = api;
  const { db } = services;
  route(router, services, dictionary.list, async () => ({ items: await listDictionary(db) }));
  route(router, services, dictionary.uses, async () => ({ goods: await countUses(db) }));
  route(router, services, dictionary.add, async ({ user, body }) => ({
    ids: await addToDictionary(services, user, body.attributes),
  }));
  route(router, services, dictionary.change, async ({ user, params, body }) => ({
    job: await changeAttribute(services, user, params.id, body),
  }));
  route(router, services, dictionary.tryKind, ({ params, body }) =>
    apart(tryKindAside, services, { id: params.id, wanted: body }),
  );
  route(router, services, dictionary.changeKind, ({ user, params, body }) =>
    changeKind(services, user, params.id, body),
  );
  route(router, services, dictionary.merge, async ({ user, params, body }) => ({
    job: await mergeAttribute(services, user, params.id, body.into),
  }));
  route(router, services, dictionary.tree, async () => {
    const held = await first(
      db
        .select({ id: tables.attribute.id })
        .from(tables.attribute)
        .where(eq(tables.attribute.role, 'category'))
        .limit(1),
    );
    return { id: held?.id ?? null };
  });
  route(router, services, dictionary.values, async ({ params }) => ({ items: await listValues(db, params.id) }));
  route(router, services, dictionary.addValues, ({ user, params, body }) => addToList(services, user, params.id, body));
  route(router, services, dictionary.addCategories, ({ user, body }) => addToList(services, user, undefined, body));
  route(router, services, dictionary.changeValue, async ({ user, params, body }) => ({
    job: await changeValue(services, user, params.id, body),
  }));
  route(router, services, dictionary.moveValue, async ({ user, params, body }) => ({
    job: await moveValue(services, user, params.id, body),
  }));
  route(router, services, dictionary.mergeValue, async ({ user, params, body }) => ({
    job: await mergeValue(services, user, params.id, body.into),
  }));
}
