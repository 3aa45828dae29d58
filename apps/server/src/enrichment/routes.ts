import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { saveComposed } from './compose.js';
import { beginReading } from './begin.js';
import { declineFound, listFound, takeFound } from './found.js';
import { findValues, proofread, proposeGathering, tryText } from './jobs.js';
import { countFaults, knowWord, leaveFaults, listFaults, listWords, moveTexts, replaceWord } from './proofs.js';
import { proposalsFor } from './proposals.js';

export function enrichmentRoutes(router: AppRouter, services: Services): void {
  const { db } = services;
  const { compose, enrichment, families, proofreading } = api;
  route(router, services, enrichment.proposals, async ({ params, locale }) => ({
    items: await proposalsFor(db, params.id, locale),
  }));
  route(router, services, families.propose, ({ body }) => apart(proposeGathering, services, body));
  route(router, services, compose.tryOut, ({ body }) => apart(tryText, services, body));
  route(router, services, compose.save, ({ body, user }) => saveComposed(services, user, body));
  route(router, services, enrichment.find, ({ body, user }) =>
    beginReading(services, user, body.chosen, findValues, 'Reading the texts of'),
  );
  route(router, services, enrichment.found, ({ query, locale }) => listFound(db, query, locale));
  route(router, services, enrichment.take, ({ body, user }) => takeFound(services, user, body));
  route(router, services, enrichment.decline, async ({ body }) => {
    await declineFound(services, body.ids);
    return {};
  });
  route(router, services, proofreading.begin, ({ body, user }) =>
    beginReading(services, user, body.chosen, proofread, 'Proofreading'),
  );
  route(router, services, proofreading.counts, () => countFaults(db));
  route(router, services, proofreading.words, ({ query }) => listWords(db, query));
  route(router, services, proofreading.faults, ({ query }) => listFaults(db, query));
  route(router, services, proofreading.replace, ({ body, user }) => replaceWord(services, user, body));
  route(router, services, proofreading.move, ({ body, user }) => moveTexts(services, user, body.ids));
  route(router, services, proofreading.know, async ({ body }) => {
    await knowWord(services, body);
    return {};
  });
  route(router, services, proofreading.leave, async ({ body }) => {
    await leaveFaults(services, body.ids);
    return {};
  });
}
