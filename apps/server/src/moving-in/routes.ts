import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { changeCompany, foundCompany } from './company.js';
import { showSteps } from './steps.js';

export function movingInRoutes(router: AppRouter, services: Services): void {
  const { movingIn } = api;
  route(router, services, movingIn.found, async ({ user, body }) => {
    await foundCompany(services, user, body);
    return {};
  });
  route(router, services, movingIn.change, async ({ user, body }) => ({
    job: await changeCompany(services, user, body),
  }));
  route(router, services, movingIn.steps, () => showSteps(services.db));
}
