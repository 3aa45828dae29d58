import { api } from '@velvet-shelf/contract';
import { type AppRouter, type Services, route } from '../http/route.js';
import { signIn, signOut } from './service.js';

export function sessionRoutes(router: AppRouter, { db }: Services): void {
  route(router, api.session.signIn, ({ ctx, body }) => signIn(ctx, db, body.email, body.password));
  route(router, api.session.who, async ({ user }) => user);
  route(router, api.session.signOut, async ({ ctx }) => {
    await signOut(ctx, db);
    return {};
  });
}
