import { api } from '@velvet-shelf/contract';
import { loadCompany } from '../company/settings.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { type Sessions, sessionOf, signIn, signOut } from './service.js';

export function sessionRoutes(router: AppRouter, services: Services, sessions: Sessions): void {
  route(router, services, api.session.signIn, ({ ctx, body }) => signIn(sessions, ctx, body.email, body.password));
  route(router, services, api.session.who, async ({ user }) => ({
    ...user,
    company: await loadCompany(sessions.db),
  }));
  route(router, services, api.session.signOut, async ({ ctx }) => {
    const session = sessionOf(ctx);
    await signOut(ctx, sessions.db);
    services.notify('signed-out', { session });
    return {};
  });
}
