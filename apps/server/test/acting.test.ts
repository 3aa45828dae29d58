/** The one way to act: what an action says it did is kept, what it did not do is not, and jobs are handed what they take. */
import { readConfig } from '@velvet-shelf/server/config';
import { queryOne, queryRows } from '@velvet-shelf/server/db/client';
import { act } from '@velvet-shelf/server/history/act';
import { registerUndo, undoAction } from '@velvet-shelf/server/history/undo';
import type { Services, User } from '@velvet-shelf/server/http/route';
import { defineJob, registerJobs } from '@velvet-shelf/server/jobs/define';
import { createJob, isUnderWay, runJob, wishCancel } from '@velvet-shelf/server/jobs/run';
import { registerRooms } from '@velvet-shelf/server/rooms';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { Client, db } from './client.js';

const client = new Client();
const told: string[] = [];
const services: Services = { db, config: readConfig(), notify: (topic) => told.push(topic) };
let user: User;

beforeAll(async () => {
  registerRooms();
  await client.signIn();
  await client.stocked();
  await client.idle();
  user = (await client.get('/api/session')).body;
});
afterAll(() => db.$client.end());

const actions = async () => (await queryOne<{ n: number }>(db, sql`SELECT count(*)::int AS n FROM action`))?.n;
const someProduct = async () =>
  queryOne<{ id: number; unit: number }>(
    db,
    sql`SELECT id, unit_id AS unit FROM product WHERE kind = 'variant' AND merged_into IS NULL ORDER BY id LIMIT 1`,
  );

describe('an action', () => {
  it('that did nothing is not kept', async () => {
    const before = await actions();
    const { answer, effect } = await act(services, user, { kind: 'nothing' }, async () => 7);
    expect([answer, effect.listingsChanged, await actions()]).toEqual([7, 0, before]);
  });

  it('that breaks off leaves nothing behind, and tells nobody', async () => {
    const before = await actions();
    told.length = 0;
    const broken = act(services, user, { kind: 'broken', tells: ['catalog'] }, async (on) => {
      on.say('Began something');
      await on.tx.execute(sql`UPDATE company SET name = 'Somebody else'`);
      throw new Error('half way');
    });
    await expect(broken).rejects.toThrow('half way');
    expect(await actions()).toBe(before);
    expect((await client.get('/api/session')).body.company.name).not.toBe('Somebody else');
    expect(told).toEqual([]);
  });

  it('keeps what changed, from before the first to after the last, and evaluates what it marked before it answers', async () => {
    const product = await someProduct();
    told.length = 0;
    const { answer: id } = await act(services, user, { kind: 'try', tells: ['catalog'] }, async (on) => {
      const { id: subject = 0, unit = 0 } = product ?? {};
      on.change({ kind: 'product', id: subject, delta: { brand: ['a', 'b'] } });
      on.change({ kind: 'product', id: subject, delta: { brand: ['b', 'c'], title: ['x', 'y'] } });
      on.say('Tried something');
      await on.dirty([unit]);
      return on.id;
    });
    const changes = await queryRows<{ delta: object }>(db, sql`SELECT delta FROM change WHERE action_id = ${id}`);
    expect(changes).toEqual([{ delta: { brand: ['a', 'c'], title: ['x', 'y'] } }]);
    expect(told).toEqual(['catalog', 'listings']);
    expect(await queryRows(db, sql`SELECT 1 FROM dirty WHERE unit_id = ${product?.unit ?? 0}`)).toEqual([]);
    const { body } = await client.get('/api/actions');
    expect(body.items[0]).toMatchObject({ words: 'Tried something', canUndo: false, actor: user.name });
    await expect(undoAction(services, user, id)).rejects.toThrow('cannot be undone by itself');
  });

  it('is taken back by the parts of all rooms it belongs to, in their order, once', async () => {
    const done: string[] = [];
    registerUndo(
      'two-rooms',
      async () => {
        done.push('first');
        return { left: ['a price: changed since'] };
      },
      async ({ by }) => {
        done.push('second');
        return { left: [], changes: [{ kind: 'product', id: by, delta: { brand: ['b', 'a'] } }] };
      },
    );
    const { answer: id } = await act(services, user, { kind: 'two-rooms' }, async (on) => {
      on.say('Did two things');
      return on.id;
    });
    expect(await undoAction(services, user, id)).toEqual({
      words: 'Undid: Did two things',
      left: ['a price: changed since'],
    });
    expect(done).toEqual(['first', 'second']);
    await expect(undoAction(services, user, id)).rejects.toThrow('undone already');
    expect(done).toHaveLength(2);
  });
});

describe('a job', () => {
  const seen: number[] = [];
  const counting = defineJob({
    kind: 'count-up',
    input: z.object({ to: z.number(), from: z.number().default(1) }),
    run: async ({ input, progress }) => {
      for (let n = input.from; n <= input.to; n++) seen.push(n);
      await progress(input.to, input.to);
    },
  });
  const stateOf = (id: number) =>
    queryOne<{ state: string; error: string | null; done: number }>(
      db,
      sql`SELECT state, error, done::int FROM job WHERE id = ${id}`,
    );
  beforeAll(() => registerJobs([counting]));

  it('is handed what it takes, as its schema has it', async () => {
    const id = await createJob(db, counting, { label: 'Counting', input: { to: 3, from: 2 } });
    await runJob(services, id);
    expect(seen).toEqual([2, 3]);
    expect(await stateOf(id)).toEqual({ state: 'done', error: null, done: 3 });
  });

  it('whose row holds something else fails, and says where', async () => {
    const id = await createJob(db, counting, { label: 'Counting', input: { to: 3, from: 1 } });
    await db.execute(sql`UPDATE job SET input = '{"to": "many"}' WHERE id = ${id}`);
    await expect(runJob(services, id)).rejects.toThrow();
    const row = await stateOf(id);
    expect(row?.state).toBe('failed');
    expect(row?.error).toContain('to');
    expect(seen).toEqual([2, 3]);
  });

  it('is found and wished to stop by what it is for, and no other is', async () => {
    // Held by nobody, and taken up by no sweep: the server knows no such kind.
    const id = await createJob(db, counting, { label: 'Counting', input: { to: 9, from: 9 } });
    expect(await isUnderWay(db, counting, { to: 9 })).toBe(true);
    expect(await isUnderWay(db, counting, { to: 8 })).toBe(false);
    expect(await wishCancel(db, counting, { to: 8 })).toBe(false);
    expect(await wishCancel(db, counting, { to: 9 })).toBe(true);
    await runJob(services, id);
    expect((await stateOf(id))?.state).toBe('cancelled');
    expect(await isUnderWay(db, counting, { to: 9 })).toBe(false);
  });
});
