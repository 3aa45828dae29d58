import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { decidePairs, splitProduct } from './decide.js';
import { listDoubted, splitDoubted } from './doubted.js';
import { setOurNumbers } from './numbers.js';
import { breakUp, gatherGoods, takeOut } from './families.js';
import { proposeFor } from './propose.js';
import { compareProducts, listJoined, listPairs, listUnjoined } from './service.js';
import { listTrust, setTrust } from './trust.js';

export function matchingRoutes(router: AppRouter, services: Services): void {
  const { families, matching } = api;
  route(router, services, matching.pairs, ({ query }) => listPairs(services, query));
  route(router, services, matching.compare, ({ query, locale }) => compareProducts(services, query, locale));
  route(router, services, matching.decide, ({ body, user }) => decidePairs(services, user, body));
  route(router, services, matching.split, async ({ params, body, user }) => ({
    products: await splitProduct(services, user, params.id, body.records),
  }));
  route(router, services, matching.joined, ({ query }) => listJoined(services, query));
  route(router, services, matching.unjoined, () => listUnjoined(services));
  route(router, services, matching.doubted, ({ query }) => listDoubted(services, query.limit));
  route(router, services, matching.splitDoubted, async ({ body, user }) => ({
    split: await splitDoubted(services, user, body.products),
  }));
  route(router, services, matching.propose, async ({ user }) => ({ job: await proposeFor(services, user.id) }));
  route(router, services, matching.ourNumbers, async ({ params, body, user }) => ({
    job: await setOurNumbers(services, user, params.id, body.usesOurNumbers),
  }));
  route(router, services, matching.trust, () => listTrust(services));
  route(router, services, matching.setTrust, async ({ body, user }) => ({
    changed: await setTrust(services, user, body),
  }));
  route(router, services, families.gather, ({ body, user }) => gatherGoods(services, user, body));
  route(router, services, families.takeOut, ({ body, user }) => takeOut(services, user, body));
  route(router, services, families.breakUp, ({ params, user }) => breakUp(services, user, params.id));
}
