import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { saveComposed } from './compose.js';
import { beginFinding } from './find.js';
import { declineFound, listFound, takeFound } from './found.js';
import { proposeGathering, tryText } from './jobs.js';
import { proposalsFor } from './proposals.js';

export function enrichmentRoutes(router: AppRouter, services: Services): void {
  const { db } = services;
  const { compose, enrichment, families } = api;
  route(router, services, enrichment.proposals, async ({ params, locale }) => ({
    items: await proposalsFor(db, params.id, locale),
  }));
  route(router, services, families.propose, ({ body }) => apart(proposeGathering, services, body));
  route(router, services, compose.tryOut, ({ body }) => apart(tryText, services, body));
  route(router, services, compose.save, ({ body, user }) => saveComposed(services, user, body));
  route(router, services, enrichment.find, ({ body, user }) => beginFinding(services, user, body.chosen));
  route(router, services, enrichment.found, ({ query, locale }) => listFound(db, query, locale));
  route(router, services, enrichment.take, ({ body, user }) => takeFound(services, user, body));
  route(router, services, enrichment.decline, async ({ body }) => {
    await declineFound(services, body.ids);
    return {};
  });
}
