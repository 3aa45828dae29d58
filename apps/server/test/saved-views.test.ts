/** Views kept under a name: whose they are, who sees them, and what becomes of them. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const [iris, otto] = [new Client(), new Client()];
type Body = Answer['body'];

const pots = { condition: { all: [{ attribute: 'material', op: 'isNotEmpty' }] }, search: 'pot', show: 'variants' };
const keep = (who: Client, name: string, how = {}) =>
  who.send('POST', '/api/saved-views', { name, isShared: false, isToHand: true, view: pots, ...how });
const seenBy = async (who: Client): Promise<Body[]> => (await who.get('/api/saved-views')).body.items;

beforeAll(async () => {
  await iris.signIn();
  const email = 'otto@mosswick.example';
  const { link } = (await iris.send('POST', '/api/invites', { email, role: 'editor' })).body;
  const token = new URL(link).pathname.split('/').at(-1);
  await otto.send('POST', `/api/invited/${token}`, { name: 'Otto', password: 'a long enough one 7' });
  await otto.signIn(email, 'a long enough one 7');
});
afterAll(() => db.$client.end());

describe('a view that is kept', () => {
  let mine: number;
  it('is its owner’s, and others see it where she says so', async () => {
    mine = (await keep(iris, 'Pots')).body.id;
    await keep(iris, 'Everybody’s pots', { isShared: true });
    expect((await seenBy(iris)).map(({ name, isMine }) => [name, isMine])).toEqual([
      ['Everybody’s pots', true],
      ['Pots', true],
    ]);
    expect((await seenBy(otto)).map(({ name, isMine }) => [name, isMine])).toEqual([['Everybody’s pots', false]]);
    const [saved] = await seenBy(otto);
    expect((await otto.send('POST', '/api/views', saved.view)).status).toBe(200);
  });
  it('keeps its columns, where its owner says so', async () => {
    const columns = [{ key: 'brand', width: 140, isFrozen: true }, { key: 'stock' }];
    const { body } = await keep(iris, 'In columns', { columns });
    const held = async () => (await seenBy(iris)).find(({ id }) => id === body.id);
    expect((await held()).columns).toEqual(columns);
    await iris.send('PATCH', `/api/saved-views/${body.id}`, { to: { columns: null }, was: { columns } });
    expect((await held()).columns).toBeNull();
    await iris.send('DELETE', `/api/saved-views/${body.id}`);
  });
  it('has a name of its own among hers, however it is written', async () => {
    expect((await keep(iris, ' POTS ')).status).toBe(409);
    expect((await keep(otto, 'Pots')).status).toBe(200);
  });
  it('is changed and removed by its owner alone', async () => {
    const body = { to: { name: 'Taken' }, was: { name: 'Pots' } };
    expect((await otto.send('PATCH', `/api/saved-views/${mine}`, body)).status).toBe(404);
    const [shared] = await seenBy(otto);
    expect((await otto.send('DELETE', `/api/saved-views/${shared.id}`)).body.detail).toContain('somebody else’s');
    expect((await iris.send('PATCH', `/api/saved-views/${mine}`, body)).status).toBe(200);
    const stale = { to: { name: 'Late' }, was: { name: 'Pots' } };
    expect((await iris.send('PATCH', `/api/saved-views/${mine}`, stale)).status).toBe(412);
    expect((await iris.undo()).body.left).toEqual([]);
    expect((await seenBy(iris)).find(({ id }) => id === mine).name).toBe('Pots');
    expect((await iris.send('DELETE', `/api/saved-views/${mine}`)).status).toBe(200);
    expect((await seenBy(iris)).some(({ id }) => id === mine)).toBe(false);
  });
  it('has conditions over attributes there are', async () => {
    const view = { ...pots, condition: { all: [{ attribute: 'nope', op: 'isEmpty' }] } };
    expect((await keep(iris, 'Of nothing', { view })).body.detail).toBe('There is no attribute “nope”');
  });
  it('goes with the undo of its making', async () => {
    await keep(iris, 'Short-lived');
    await iris.undo();
    expect((await seenBy(iris)).some(({ name }) => name === 'Short-lived')).toBe(false);
  });
});
