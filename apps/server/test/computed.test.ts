/** Attributes that follow from others: goods get them, find them and lose them; a person's word stays. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';
import { blank, keeping } from './keeping.js';

const client = new Client();
type Body = Answer['body'];
const { attribute, make } = keeping(client);

let pot = 0;
let family = 0;
beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  const { body } = await client.send('POST', '/api/views', { search: 'MS-HOL42-10-MO', show: 'variants' });
  pot = body.first[0].id;
  family = (await client.get(`/api/products/${pot}`)).body.family.id;
});
afterAll(() => db.$client.end());

const keyOf = async (label: string): Promise<string> => (await attribute(label)).key;
const held = async (label: string, id = pot): Promise<Body> =>
  (await client.get(`/api/products/${id}`)).body.values.find((value: Body) => value.label === label);
const edit = async (label: string, said: object) => {
  const { attribute: key, text } = await held(label);
  return client.send('PATCH', `/api/products/${pot}`, {
    edits: [{ attribute: key, language: null, madeAgainst: text, ...said }],
  });
};
const side = async () => ({
  ...blank,
  label: 'Side seen',
  type: 'measure',
  dimension: 'area',
  computed: { kind: 'multiplied', of: [await keyOf('Diameter'), await keyOf('Height')], unit: 'cm2' },
});

describe('an attribute that follows from others', () => {
  it('is tried before it is kept, and refused with the reason', async () => {
    const { computed, ...rest } = await side();
    const tried = await client.send('POST', '/api/dictionary/computed/try', { attribute: rest, computed });
    expect(tried.status).toBe(200);
    expect(tried.body.objection).toBeNull();
    expect(tried.body.goods).toBeGreaterThan(10);
    expect(tried.body.of).toBeGreaterThan(tried.body.goods);
    expect(tried.body.examples[0].text).toMatch(/cm²$/);
    expect(tried.body.examples[0].why).toMatch(/^diameter .* × height /i);
    const wrong = { ...computed, of: [...computed.of, computed.of[0]] };
    expect(
      (await client.send('POST', '/api/dictionary/computed/try', { attribute: rest, computed: wrong })).body.objection,
    ).toBe('The product of these is no area');
    const refused = await make({ ...rest, computed: wrong });
    expect([refused.status, refused.body.errors[0].pointer]).toEqual([400, '/body/computed']);
  });

  it('is held by goods at once, found by conditions, and follows an edit of what it follows from', async () => {
    expect((await make(await side())).status).toBe(200);
    await client.idle();
    expect(await held('Side seen')).toMatchObject({
      text: '90 cm²',
      origin: 'computed',
      why: 'diameter 10 cm × height 9 cm',
    });
    const condition = { attribute: await keyOf('Side seen'), op: 'atLeast', value: '0.009 m²' };
    const found = await client.send('POST', '/api/views', { condition, search: 'MS-HOL42-10-MO', show: 'variants' });
    expect(found.body.first.map(({ id }: Body) => id)).toContain(pot);
    expect((await edit('Height', { text: '12 cm' })).status).toBe(200);
    expect((await held('Side seen')).text).toBe('120 cm²');
    await client.undo();
    expect((await held('Side seen')).text).toBe('90 cm²');
  });

  it('leaves what a person says, until that is let go', async () => {
    expect((await edit('Side seen', { text: '95 cm²' })).status).toBe(200);
    expect(await held('Side seen')).toMatchObject({ text: '95 cm²', origin: 'edit' });
    expect((await edit('Side seen', { letGo: true })).status).toBe(200);
    expect(await held('Side seen')).toMatchObject({ text: '90 cm²', origin: 'computed' });
  });

  it('says what is missing', async () => {
    expect((await edit('Height', { text: null })).status).toBe(200);
    expect(await held('Side seen')).toMatchObject({ text: null, origin: 'none', why: 'height is missing' });
    await client.undo();
  });

  it('goes on following where prices and stock of single variants come in again', async () => {
    const header = 'SKU\tHeight\tDiameter\n';
    const { body } = await client.uploadText('mosswick-sizes.tsv', `${header}MS-HOL42-10-MO\t20 cm\t10 cm\n`);
    await client.send('POST', `/api/batches/${body.id}/try`);
    const applied = await client.send('POST', `/api/batches/${body.id}/apply`);
    expect(applied.body.state).toBe('applied');
    await client.idle();
    expect((await held('Side seen')).text).toBe('200 cm²');
    await client.undo();
    await client.idle();
    expect((await held('Side seen')).text).toBe('90 cm²');
  });

  it('keeps what it follows from as it is, and goes with its undo', async () => {
    const { id, label } = await attribute('Height');
    const refused = await client.send('PATCH', `/api/dictionary/${id}`, { to: { many: true }, was: { many: false } });
    expect([refused.status, label]).toEqual([409, 'Height']);
    const made = (await client.get('/api/actions')).body.items.find(
      (action: Body) => /Side seen/.test(action.words) && action.canUndo && action.kind === 'dictionary',
    );
    expect((await client.undo(made.id)).body.left).toEqual([]);
    await client.idle();
    expect(await held('Side seen')).toBeUndefined();
  });
});

describe('variants of a family', () => {
  it('are counted, on each of them and on the family', async () => {
    await make({ ...blank, label: 'In the range', type: 'number', computed: { kind: 'variants', of: [] } });
    await client.idle();
    const variants = (await client.get(`/api/products/${family}`)).body.siblings.variants?.length;
    const { text } = await held('In the range');
    expect(Number(text)).toBeGreaterThan(3);
    expect((await held('In the range', family)).text).toBe(text);
    expect(variants ?? Number(text)).toBe(Number(text));
  });
});

describe('pieces of goods', () => {
  const pieces = async (id: number): Promise<number> => Number((await held('All of it', id)).text);

  it('are counted with every movement, on the variant and on its family, and what follows from them', async () => {
    await make({ ...blank, label: 'All of it', type: 'number', computed: { kind: 'stock', of: [] } });
    await client.idle();
    const stock = (await client.get(`/api/products/${pot}/stock`)).body;
    const [before, ofFamily] = [await pieces(pot), await pieces(family)];
    expect(before).toBe(stock.onHand);
    expect(ofFamily).toBeGreaterThan(before);
    const moved = await client.send('POST', `/api/products/${pot}/stock`, {
      delta: 40,
      reason: 'received',
      madeAgainst: { onHand: stock.onHand, keptBack: stock.keptBack },
    });
    expect(moved.status).toBe(200);
    expect([await pieces(pot), await pieces(family)]).toEqual([before + 40, ofFamily + 40]);
    await client.undo();
    expect([await pieces(pot), await pieces(family)]).toEqual([before, ofFamily]);
  });

  it('follow a list that counts them otherwise, and its undo', async () => {
    const [before, ofFamily] = [await pieces(pot), await pieces(family)];
    const { body } = await client.uploadText('mosswick-counted.tsv', 'SKU\tStock\nMS-HOL42-10-MO\t3\n');
    await client.send('PUT', `/api/batches/${body.id}/reading`, { scope: 'update' });
    await client.send('POST', `/api/batches/${body.id}/try`);
    expect((await client.send('POST', `/api/batches/${body.id}/apply`)).body.state).toBe('applied');
    expect([await pieces(pot), await pieces(family)]).toEqual([3, ofFamily - before + 3]);
    await client.send('POST', `/api/batches/${body.id}/undo`);
    expect([await pieces(pot), await pieces(family)]).toEqual([before, ofFamily]);
  });
});
