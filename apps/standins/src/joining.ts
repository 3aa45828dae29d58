/** How a simulated channel lets somebody in: a page of consent, an id with its secret, or a token it gives out; kept in its own schema. */
import { createHash, randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type Router from '@koa/router';
import type { Context } from 'koa';
import type pg from 'pg';

/** What it says of an account, and how it behaves, for trying out what happens when it misbehaves. */
export interface AccountMood {
  missing: string[];
  late: number;
  cancelled: number;
  notices: string[];
  terms: { kind: string; key: string; label: string }[];
  /** Seconds that a token is good for. */
  tokenSeconds: number;
  /** Renews tokens that have run out. */
  renews: boolean;
}

export interface Joining {
  /** Its part of the addresses, and its schema. */
  key: string;
  name: string;
  by: 'consent' | 'secret' | 'token';
  /** What it will let read and write, as its page of consent says it. */
  lets: string[];
  /** Regions its accounts are kept apart in, by key. */
  regions?: Readonly<Record<string, string>>;
  /** Ids with their secrets. */
  secrets?: Readonly<Record<string, string>>;
  mood: AccountMood;
}

const escape = (text: string) =>
  text.replace(/[&<>"]/g, (mark) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[mark] ?? mark);
const inRegion = (region: string | null) => (region ? { region } : {});
const fresh = () => randomBytes(24).toString('base64url');

export async function joining(
  router: Router,
  pool: pg.Pool,
  { key, name, by, lets, regions, secrets, mood }: Joining,
): Promise<(ctx: Context) => Promise<boolean>> {
  const table = `"${key}".pass`;
  await pool.query(`
    CREATE SCHEMA IF NOT EXISTS "${key}";
    CREATE TABLE IF NOT EXISTS ${table} (text text PRIMARY KEY, kind text NOT NULL, challenge text, back text, until timestamptz NOT NULL);
    ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS region text;`);
  const keep = (
    text: string,
    kind: string,
    seconds: number,
    of: { region?: string; challenge?: string; back?: string },
  ) =>
    pool.query(`INSERT INTO ${table} VALUES ($1, $2, $3, $4, now() + $5 * interval '1 second', $6)`, [
      ...[text, kind, of.challenge ?? null, of.back ?? null, seconds, of.region ?? null],
    ]);
  const take = async (text: string, kind: string) =>
    (
      await pool.query<{ challenge: string | null; back: string | null; region: string | null; good: boolean }>(
        `DELETE FROM ${table} WHERE text = $1 AND kind = $2 RETURNING challenge, back, region, until > now() AS good`,
        [text, kind],
      )
    ).rows[0];
  const give = async (ctx: Context, of: { region?: string } = {}) => {
    const [token, renew] = [fresh(), fresh()];
    await keep(token, 'token', mood.tokenSeconds, of);
    await keep(renew, 'renew', 30 * 86_400, of);
    ctx.body = { token, renew };
  };
  const refuse = (ctx: Context, problem: string) => {
    ctx.status = 401;
    ctx.body = { problem };
  };

  if (by === 'consent') {
    router.get(`/${key}/consent`, (ctx) => {
      const { state = '', challenge = '', back = '', region = '' } = ctx.query as Record<string, string>;
      ctx.type = 'html';
      ctx.body = `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escape(name)}: may they?</title>
<style>body{font:16px/1.5 system-ui,sans-serif;margin:8vh auto;max-width:34rem;color:#1d2430}button{font:inherit;padding:.5rem 1.2rem;margin-right:.6rem}li{margin:.2rem 0}</style>
<h1>${escape(name)}</h1><p>Velvet Shelf asks to act for <b>Mosswick Supply</b>${regions?.[region] === undefined ? '' : `, in <b>${escape(regions[region])}</b>`}. It will be able to:</p><ul>${lets.map((each) => `<li>${escape(each)}</li>`).join('')}</ul>
<form method="post" action="/${key}/consent">${Object.entries({ state, challenge, back, region })
        .map(([field, value]) => `<input type="hidden" name="${field}" value="${escape(value)}">`)
        .join('')}
<button name="answer" value="yes">Let it</button><button name="answer" value="no">Do not let it</button></form><p><small>A simulated channel</small></p></html>`;
    });
    router.post(`/${key}/consent`, async (ctx) => {
      const form = new URLSearchParams(await textOf(ctx.req));
      const back = new URL(form.get('back') ?? '');
      back.searchParams.set('state', form.get('state') ?? '');
      if (form.get('answer') === 'yes') {
        const code = fresh();
        const [challenge, returns, region] = ['challenge', 'back', 'region'].map((field) => form.get(field) ?? '');
        await keep(code, 'code', 300, { challenge, back: returns, region });
        back.searchParams.set('code', code);
      } else back.searchParams.set('refused', 'yes');
      ctx.redirect(back.href);
    });
  }

  router.post(`/${key}/api/token`, async (ctx) => {
    const asked = JSON.parse(await textOf(ctx.req)) as Record<string, string>;
    if (asked.grant === 'code') {
      const held = await take(asked.code ?? '', 'code');
      const proof = createHash('sha256')
        .update(asked.verifier ?? '')
        .digest('base64url');
      if (!held?.good || held.challenge !== proof || held.back !== asked.back) return refuse(ctx, 'No such code');
      return give(ctx, inRegion(held.region));
    }
    if (asked.grant === 'secret') {
      if (asked.id === undefined || secrets?.[asked.id] !== asked.secret) return refuse(ctx, 'Unknown id or secret');
      return give(ctx);
    }
    if (asked.grant === 'renew') {
      const held = mood.renews ? await take(asked.renew ?? '', 'renew') : undefined;
      return held?.good ? give(ctx, inRegion(held.region)) : refuse(ctx, 'Let in no more');
    }
    return refuse(ctx, 'Unknown grant');
  });

  /** A token as its pages would show it to somebody who is signed in there. */
  router.post(`/${key}/api/hand-out`, async (ctx) => {
    await give(ctx);
  });

  /** Of the token somebody asks with, where it is good; otherwise refused. */
  const passOf = async (ctx: Context): Promise<{ region: string | null } | undefined> => {
    const token = /^Bearer (.+)$/.exec(ctx.get('authorization'))?.[1] ?? '';
    const { rows } = await pool.query<{ region: string | null }>(
      `SELECT region FROM ${table} WHERE text = $1 AND kind = 'token' AND until > now()`,
      [token],
    );
    if (rows.length === 0) refuse(ctx, 'Not let in');
    return rows[0];
  };

  router.get(`/${key}/api/account`, async (ctx) => {
    const pass = await passOf(ctx);
    if (!pass) return;
    const { missing, late, cancelled, notices, terms } = mood;
    ctx.body = { ...inRegion(pass.region), missing, late, cancelled, notices, terms };
  });

  router.post(`/${key}/mood`, async (ctx) => {
    const { forget, ...next } = JSON.parse((await textOf(ctx.req)) || '{}') as Partial<AccountMood> & {
      forget?: string;
    };
    Object.assign(mood, next);
    if (forget !== undefined) await pool.query(`DELETE FROM ${table} WHERE kind = $1`, [forget]);
    ctx.body = mood;
  });
  return async (ctx) => (await passOf(ctx)) !== undefined;
}

export async function textOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const chunk of request) text += String(chunk);
  return text;
}
