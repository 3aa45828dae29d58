import { api } from '@velvet-shelf/contract';
import type { Context } from 'koa';
import { findCompany } from '../company/settings.js';
import { notFound } from '../http/problem.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { isOwned, makeOwner, visit } from './first-run.js';
import { invite, join, showInvited, withdrawInvite } from './invites.js';
import { changePassword } from './passwords.js';
import { changePerson, personOf, showPeople } from './people.js';
import { type Sessions, expectTries, sessionOf, signIn, signOut, startSession } from './service.js';

export function sessionRoutes(router: AppRouter, services: Services, sessions: Sessions): void {
  const { session } = api;
  route(router, services, session.signIn, ({ ctx, body }) => signIn(sessions, ctx, body.email, body.password));
  route(router, services, session.who, async ({ user }) => ({
    ...user,
    company: (await findCompany(sessions.db)) ?? null,
  }));
  route(router, services, session.signOut, async ({ ctx }) => {
    const ended = sessionOf(ctx);
    await signOut(ctx, sessions.db);
    services.notify('signed-out', { session: ended });
    return {};
  });
  route(router, services, session.firstRun, async () => ({ owned: await isOwned(sessions.db) }));
  /** Whoever has just made an account is in. */
  const letIn = async (ctx: Context, id: number) => {
    const person = await personOf(sessions.db, id);
    if (!person) throw notFound(`person ${id}`);
    await startSession(sessions, ctx, person);
    return person;
  };
  route(router, services, session.own, async ({ ctx, body }) => {
    await expectTries(sessions, ctx, visit);
    return letIn(ctx, await makeOwner(sessions, ctx.ip, body));
  });
  route(router, services, session.password, async ({ ctx, user, body }) => {
    await changePassword(sessions.db, user, sessionOf(ctx) ?? '', body);
    return {};
  });
  route(router, services, session.people, () => showPeople(sessions.db));
  route(router, services, session.invite, async ({ user, body }) => {
    const { token, expires } = await invite(services, user, body);
    return { link: `${services.config.address}/join/${token}`, expires };
  });
  route(router, services, session.withdrawInvite, async ({ user, params }) => {
    await withdrawInvite(services, user, params.id);
    return {};
  });
  route(router, services, session.invited, ({ params }) => showInvited(sessions.db, params.token));
  route(router, services, session.join, async ({ ctx, params, body }) =>
    letIn(ctx, await join(sessions.db, params.token, body)),
  );
  route(router, services, session.changePerson, async ({ user, params, body }) => {
    await changePerson(services, user, params.id, body);
    return {};
  });
}
