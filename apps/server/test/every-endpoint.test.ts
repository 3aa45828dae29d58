/** What holds of every endpoint: a session, a role, a document, and no request that makes the server stumble. */
import { type Endpoint, type Role, api, mayAs, roles } from '@velvet-shelf/contract';
import { queryRows } from '@velvet-shelf/server/db/client';
import { hashPassword } from '@velvet-shelf/server/session/service';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { type Answer, Client, db } from './client.js';
import { type JsonSchema, fromSchema } from './from-schema.js';

const endpoints = Object.entries(api).flatMap(([capability, list]) =>
  Object.entries(list).map(([name, endpoint]) => ({ name: `${capability}.${name}`, endpoint: endpoint as Endpoint })),
);
const table = endpoints.map(({ name, endpoint }) => [name, endpoint] as const);
const closed = table.filter(([, { role }]) => role !== 'anyone');
/** A stream of events has no end that could be waited for. */
const ending = table.filter(([, { kind }]) => kind !== 'events');

const owner = new Client();
const clients = new Map<Role, Client>();

beforeAll(async () => {
  await owner.signIn();
  for (const role of roles) {
    const email = `${role}@every.example`;
    await db.execute(
      sql`INSERT INTO user_account (email, name, role, password_hash) VALUES (${email}, ${role}, ${role}, ${await hashPassword('every-role')})`,
    );
    const client = new Client();
    await client.signIn(email, 'every-role');
    clients.set(role, client);
  }
  await owner.stocked();
  await owner.bringIn('kestrelgate-seeds.json');
  await owner.send('POST', '/api/feeds', { placeId: 1, format: 'xml' });
});
afterAll(() => db.$client.end());

/** The address with a number, or whatever is given, for each of its parameters. */
const addressOf = ({ path }: Endpoint, fill: (name: string) => string | number = () => 1) =>
  path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(fill(name)));

const isProblem = ({ headers, body }: Answer) =>
  (headers.get('content-type') ?? '').startsWith('application/problem+json') &&
  typeof body.title === 'string' &&
  body.title.length > 3 &&
  typeof body.status === 'number';

describe('without a session', () => {
  it.each(closed)('%s answers 401 and says so', async (_, endpoint) => {
    const answer = await new Client().send(
      endpoint.method,
      addressOf(endpoint),
      endpoint.method === 'GET' ? undefined : {},
    );
    expect(answer.status).toBe(401);
    expect(isProblem(answer)).toBe(true);
  });
});

const limited = roles.filter((role) => closed.some(([, endpoint]) => !mayAs(role, endpoint.role)));
describe.each(limited)('the role of %s', (role) => {
  const client = () => clients.get(role) as Client;
  const beyond = closed.filter(([, endpoint]) => !mayAs(role, endpoint.role));
  it.each(beyond)('is refused %s whatever it says', async (_, endpoint) => {
    for (const body of [{}, { anything: 1 }]) {
      const answer = await client().send(
        endpoint.method,
        addressOf(endpoint),
        endpoint.method === 'GET' ? undefined : body,
      );
      expect(answer.status).toBe(403);
      expect(isProblem(answer)).toBe(true);
    }
  });
});

describe('a viewer', () => {
  const looking = ending.filter(([name, { role }]) => role === 'viewer' && name !== 'session.signOut');
  it.each(looking)('is let through to %s, which changes nothing', async (name, endpoint) => {
    const before = await fingerprint();
    const body = endpoint.method === 'GET' ? undefined : {};
    expect((await clients.get('viewer')?.send(endpoint.method, addressOf(endpoint), body))?.status, name).not.toBe(403);
    expect(await fingerprint()).toEqual(before);
  });
  it('opens the catalog, and signs in and out', async () => {
    const client = new Client();
    await client.signIn('viewer@mosswick.example');
    const view = await client.send('POST', '/api/views', { condition: { all: [] } });
    expect(view.status).toBe(200);
    expect((await client.get(`/api/views/${view.body.token}`)).body.rows).toBeGreaterThan(100);
    expect((await client.send('DELETE', '/api/session')).status).toBe(200);
    expect((await client.get('/api/session')).status).toBe(401);
  });
});

/** What a change of the shelf would leave behind. */
const fingerprint = async () =>
  await queryRows(
    db,
    sql`SELECT (SELECT count(*) FROM action) AS actions, (SELECT count(*) FROM change) AS changes, (SELECT sum(version) FROM product) AS versions,
          (SELECT count(*) FROM job) AS jobs, (SELECT sum(setup_version) FROM place) AS setups`,
  );

describe('the OpenAPI document', () => {
  it('has every endpoint with its summary, its parameters and its answer', async () => {
    const { body } = await owner.get('/api/openapi.json');
    for (const { name, endpoint } of endpoints) {
      const told = body.paths[endpoint.path.replace(/:(\w+)/g, '{$1}')]?.[endpoint.method.toLowerCase()];
      expect(told, name).toBeDefined();
      expect(told.summary, name).toBe(endpoint.summary);
      const named = [...endpoint.path.matchAll(/:(\w+)/g)].map(([, parameter]) => parameter);
      const inPath = (told.parameters ?? []).filter((parameter: { in: string }) => parameter.in === 'path');
      expect(inPath.map((parameter: { name: string }) => parameter.name).sort(), name).toEqual(named.sort());
      expect(Object.keys(told.responses), name).toContain('200');
    }
  });
  it('has no address twice, and every summary is a sentence of its own', () => {
    const addresses = endpoints.map(({ endpoint }) => `${endpoint.method} ${endpoint.path}`);
    expect(new Set(addresses).size).toBe(addresses.length);
    const summaries = endpoints.map(({ endpoint }) => endpoint.summary);
    expect(new Set(summaries).size).toBe(summaries.length);
  });
});

describe('an address with a number in it', () => {
  const numbered = closed.filter(([, { path }]) => path.includes(':id'));
  it.each(numbered)('%s refuses what is none', async (_, endpoint) => {
    for (const written of ['abc', '0', '-1', '1.5', '1e30', "1' OR '1'='1"]) {
      const answer = await owner.send(
        endpoint.method,
        addressOf(endpoint, (name) => (name === 'id' ? written : 1)),
        endpoint.method === 'GET' ? undefined : {},
      );
      expect([400, 404], `${written}: ${JSON.stringify(answer.body)}`).toContain(answer.status);
      expect(isProblem(answer)).toBe(true);
    }
  });
  it.each(numbered)('%s names a number nobody has', async (_, endpoint) => {
    const answer = await owner.send(
      endpoint.method,
      addressOf(endpoint, () => 987_654_321),
      endpoint.method === 'GET' ? undefined : {},
    );
    expect(answer.status, JSON.stringify(answer.body)).toBeGreaterThanOrEqual(400);
    expect(answer.status, JSON.stringify(answer.body)).toBeLessThan(500);
    expect(isProblem(answer)).toBe(true);
  });
});

describe('whatever is asked', () => {
  /** Signing out would end the test, and so would letting its own owner in no more; signing in costs a tenth of a second each. */
  const left = new Set(['session.signIn', 'session.signOut', 'session.changePerson']);
  const asked = ending.filter(([name]) => !left.has(name));

  it.each(asked)('%s is answered, or refused with a reason', async (name, endpoint) => {
    const part = (schema: z.ZodType) =>
      fromSchema(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as JsonSchema);
    const numbers = fc.oneof(
      fc.integer({ min: 1, max: 6 }),
      fc.integer({ min: 1, max: 700 }),
      fc.constant(2_000_000_000),
    );
    await fc.assert(
      fc.asyncProperty(numbers, part(endpoint.query), part(endpoint.body), async (number, query, body) => {
        const words = new URLSearchParams(
          Object.entries(query as Record<string, unknown>).map(([key, value]) => [key, String(value)]),
        );
        const address = `${addressOf(endpoint, () => number)}?${words}`;
        const answer = await owner.send(endpoint.method, address, endpoint.method === 'GET' ? undefined : body);
        expect(
          answer.status,
          `${name} ${address} ${JSON.stringify(body)}: ${JSON.stringify(answer.body)}`,
        ).toBeLessThan(500);
        if (answer.status >= 400) expect(isProblem(answer)).toBe(true);
      }),
      { numRuns: 12 },
    );
  });

  it('and afterwards the shelf is whole', async () => {
    await owner.idle();
    expect((await owner.get('/api/health')).status).toBe(200);
    const { body } = await owner.send('POST', '/api/views', { condition: { all: [] } });
    expect(JSON.stringify(body)).not.toContain('problem');
  });
});
