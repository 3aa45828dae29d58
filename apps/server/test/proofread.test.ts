/** Proofreading through the interface: what is found, mended as edits, known, left; read again; taken back. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
const send = (path: string, body: object): Promise<Answer> => client.send('POST', path, body);

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

const description = 'description';
const variants: number[] = [];
const productOf = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}`)).body;
const textOf = async (id: number, language = 'en-GB'): Promise<string | null> =>
  (await productOf(id)).values.find((one: Body) => one.attribute === description && one.language === language)?.text ??
  null;
const say = async (id: number, text: string | null, language = 'en-GB') => {
  const edit = { attribute: description, language, text, madeAgainst: await textOf(id, language) };
  const { status } = await client.send('PATCH', `/api/products/${id}`, { edits: [edit] });
  expect(status).toBe(200);
};
const proofread = async () => {
  expect((await send('/api/proofreading', { chosen: { rows: variants } })).body.goods).toBeGreaterThan(0);
  await client.idle();
};
const words = async (): Promise<Body[]> => (await client.get('/api/proofreading/words?limit=200')).body.items;
const wordOf = async (word: string) => (await words()).find((one) => one.word.toLowerCase() === word);
const faults = async (fault: string): Promise<Body[]> =>
  (await client.get(`/api/proofreading/faults?fault=${fault}&limit=200`)).body.items;

const long =
  'A hand-thrown pot with a green glaze, fired twice so that it stands the frost of any winter. It has a hole in its foot, and it comes with a saucer of the same glaze. Wash it by hand with warm water and a soft brush, and keep it out of the sun for the first days after you have planted it.';

describe('proofreading', () => {
  beforeAll(async () => {
    const { body } = await send('/api/views', { show: 'variants', sort: 'family' });
    const families = new Map<number, number>();
    for (const { id, familyId } of body.first) families.set(familyId ?? id, families.get(familyId ?? id) ?? id);
    variants.push(...[...families.values()].slice(0, 4));
    const [a = 0, b = 0, c = 0, d = 0] = variants;
    await say(a, `<p>The <b>glased</b> bowl recieves a title="glased" drainge hole. ${long}</p>`);
    await say(b, `<p>Glased by hand. ${long}</p>`);
    await say(
      c,
      '<p>Ein handgedrehter Topf mit grüner Glasur, zweimal gebrannt, damit er den Frost im Winter aushält.</p>',
    );
    await say(d, `<p>${Array.from({ length: 60 }, () => 'a pot and').join(' ')} a saucer.</p>`);
    await proofread();
  });

  it('finds unknown words once each, with how many texts have them', async () => {
    const glased = await wordOf('glased');
    expect(glased).toMatchObject({ language: 'en-GB', texts: 2, example: { attribute: description } });
    expect((await wordOf('recieves'))?.suggestions).toContain('receives');
    const { body } = await client.get('/api/proofreading');
    expect(body.words).toBe((await words()).length);
    expect(body.dictionaries).toContainEqual({ language: 'en-GB', there: true });
  });

  it('finds another language, what is said before, and what is hard to read', async () => {
    const [a = 0, b = 0, c = 0, d = 0] = variants;
    expect((await faults('language')).find((one) => one.product === c)?.said).toEqual({
      fault: 'language',
      language: 'de',
      to: 'de-DE',
    });
    const repeated = (await faults('repeated')).filter(({ product }) => [a, b].includes(product));
    expect(repeated.map(({ said }) => said.other).sort()).toEqual([a, b].sort());
    expect((await faults('hard')).find((one) => one.product === d)?.said).toMatchObject({ sentence: true });
  });

  it('writes another word in all texts as one edit, in what is written alone, and takes it back', async () => {
    const [a = 0, b = 0] = variants;
    const before = [await textOf(a), await textOf(b)];
    const { status, body } = await send('/api/proofreading/words/replace', {
      word: 'glased',
      language: 'en-GB',
      by: 'glazed',
    });
    expect([status, body.texts]).toEqual([200, 2]);
    expect(await textOf(a)).toContain('<b>glazed</b> bowl');
    expect(await textOf(b)).toContain('Glazed by hand');
    expect(await wordOf('glased')).toBeUndefined();
    expect((await client.newest()).words).toContain('“glazed” for “glased” in 2 texts');
    await client.undoLast();
    expect([await textOf(a), await textOf(b)]).toEqual(before);
    expect(
      (await send('/api/proofreading/words/replace', { word: 'nowhere', language: 'en-GB', by: 'x' })).status,
    ).toBe(400);
  });

  it('knows a word once somebody says it is one', async () => {
    expect((await send('/api/proofreading/words/know', { word: 'drainge', language: 'en-GB' })).status).toBe(200);
    await proofread();
    expect(await wordOf('drainge')).toBeUndefined();
    expect((await wordOf('glased'))?.texts).toBe(2);
    expect((await send('/api/proofreading/words/know', { word: 'x', language: 'xx' })).status).toBe(400);
  });

  it('keeps a text under the language it is in, unless there is another one', async () => {
    const [, , c = 0] = variants;
    const german = await textOf(c);
    const before = await textOf(c, 'de-DE');
    await say(c, null, 'de-DE');
    const of = async () => (await faults('language')).filter(({ product }) => product === c).map(({ id }) => id);
    const [id] = await of();
    const { status, body } = await send('/api/proofreading/move', { ids: [id] });
    expect([status, body.texts, body.left]).toEqual([200, 1, 0]);
    expect([await textOf(c), await textOf(c, 'de-DE')]).toEqual([null, german]);
    expect(await of()).toEqual([]);
    await client.undoLast();
    await proofread();
    await say(c, '<p>Ein anderer Text.</p>', 'de-DE');
    expect((await send('/api/proofreading/move', { ids: await of() })).body).toMatchObject({ texts: 0, left: 1 });
    expect(await textOf(c)).toBe(german);
    await say(c, before, 'de-DE');
  });

  it('leaves what is left until the text says something else, and forgets what was mended', async () => {
    const [, , c = 0, d = 0] = variants;
    const [fault] = (await faults('language')).filter(({ product }) => product === c);
    await send('/api/proofreading/leave', { ids: [fault?.id] });
    await proofread();
    expect((await faults('language')).filter(({ product }) => product === c)).toEqual([]);
    await say(c, '<p>Ein Topf mit grüner Glasur und einem Loch im Boden, der den Frost im Winter aushält.</p>');
    await say(d, '<p>A pot and a saucer.</p>');
    await proofread();
    expect((await faults('language')).filter(({ product }) => product === c)).toHaveLength(1);
    expect((await faults('hard')).filter(({ product }) => product === d)).toEqual([]);
  });

  it('is for those who may edit', async () => {
    const viewer = new Client();
    await viewer.signIn('viewer@mosswick.example');
    expect((await viewer.send('POST', '/api/proofreading', { chosen: { rows: variants } })).status).toBe(403);
    expect((await viewer.get('/api/proofreading')).status).toBe(200);
  });
});
