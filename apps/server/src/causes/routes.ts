import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { saveFix } from './fix.js';
import { tryFix } from './jobs.js';
import { rankedCauses, showCause } from './service.js';

export function causeRoutes(router: AppRouter, services: Services): void {
  route(router, services, api.causes.ranked, ({ query }) => rankedCauses(services, query.place));
  route(router, services, api.causes.cause, ({ query }) => showCause(services, query.key));
  route(router, services, api.causes.tryFix, ({ query, body, user }) =>
    apart(tryFix, services, { key: query.key, fix: body, user: user.id }),
  );
  route(router, services, api.causes.fix, ({ query, body, user }) => saveFix(services, user, query.key, body));
}
