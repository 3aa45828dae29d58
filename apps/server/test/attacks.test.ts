/** What is sent to do harm: each file and request is read or refused with a reason, nothing is left of it, and the house stands. */
import { existsSync, readdirSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, base, db, until } from './client.js';
import { cell, workbook, zip } from './made/zip.js';

const client = new Client();
type Body = Answer['body'];
/** What is kept of the files sent. */
const kept = () => {
  const directory = join(process.env.VELVET_FILES ?? '', 'intake');
  return existsSync(directory) ? readdirSync(directory) : [];
};

beforeAll(async () => {
  await client.signIn();
});
afterAll(() => db.$client.end());
afterEach(async () => {
  expect((await client.get('/api/health')).status).toBe(200);
});

const many = (n: number, of: (i: number) => string) => Array.from({ length: n }, (_, i) => of(i));
const nest = (n: number, open: string, inner: string, close: string) => open.repeat(n) + inner + close.repeat(n);
const goods = 'Art;Name;Price\n';

describe('a file', () => {
  const refused: [string, string, string | Uint8Array, RegExp][] = [
    ['a workbook with a cell far to the right', 'a.xlsx', workbook(`<row r="1">${cell('ZZZZZZ1', 'x')}</row>`), /XFD/],
    [
      'a workbook as wide as one can be',
      'b.xlsx',
      workbook(
        many(3, (i) => `<row r="${i + 1}">${cell(`A${i + 1}`, 'Art')}${cell(`XFD${i + 1}`, 'Name')}</row>`).join(''),
      ),
      /columns/,
    ],
    [
      'a workbook with a row beyond the last',
      'c.xlsx',
      workbook(`<row r="99999999">${cell('A99999999', 'x')}</row>`),
      /1,048,576/,
    ],
    ['a workbook that is nothing inside', 'd.xlsx', zip([{ name: 'x', content: 'y' }]), /no XLSX workbook/],
    [
      'a workbook that unpacks to hundreds of times its size',
      'e.xlsx',
      zip([
        { name: 'xl/workbook.xml', content: '<workbook><sheets/></workbook>' },
        { name: 'xl/_rels/workbook.xml.rels', content: '<Relationships/>' },
        { name: 'xl/sharedStrings.xml', content: Buffer.alloc(80_000_000, 32) },
      ]),
      /hundred times its size/,
    ],
    [
      'a table of thousands of columns',
      'f.csv',
      `${many(9000, (i) => `c${i}`).join(';')}\n${many(9000, () => 'x').join(';')}\n`,
      /columns/,
    ],
    ['a document nested a hundred thousand deep', 'g.json', nest(100_000, '[', '{"a":1}', ']'), /./],
    [
      'an object nested a hundred thousand deep',
      'h.json',
      `{"goods":[{"id":1,"x":${nest(100_000, '{"a":', '1', '}')}},{"id":2}]}`,
      /./,
    ],
    [
      'an item with a hundred thousand fields',
      'i.json',
      `[{${many(100_000, (i) => `"k${i}":1`).join(',')}},{"k1":2}]`,
      /table/,
    ],
    [
      'elements nested a hundred thousand deep',
      'j.xml',
      `<goods>${nest(100_000, '<a>', 'x', '</a>')}</goods>`,
      /nested|XML/,
    ],
    [
      'a document that names entities',
      'k.xml',
      '<!DOCTYPE x [<!ENTITY a "b">]><goods><i>&a;</i><i>&a;</i></goods>',
      /DOCTYPE/,
    ],
    ['a page that is no table', 'l.html', '<html><body><p>Our goods</p></body></html>', /web page/],
    ['a picture', 'm.csv', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 1, 2, 3), /PNG/],
    ['nothing', 'n.csv', '', /empty/],
    ['one column', 'o.csv', 'Name\nPot\n', /no table/],
    ['a header alone', 'p.csv', 'Art;Name\n', /no table/],
    ['brackets without end', 'q.json', '['.repeat(500_000), /./],
  ];
  it.each(refused)(
    '%s is refused with its reason, and leaves nothing on the disk',
    async (_, name, content, reason) => {
      const before = kept().length;
      const answer = await client.upload(name, Buffer.from(content as string));
      expect(answer.status, JSON.stringify(answer.body).slice(0, 300)).toBeGreaterThanOrEqual(400);
      expect(answer.status).toBeLessThan(500);
      expect(answer.body.detail).toMatch(reason);
      expect(kept()).toHaveLength(before);
    },
  );

  const read: [string, string, string, number, number][] = [
    ['a cell of three million characters', 'r.csv', `${goods}1;Pot;3\n2;${'x'.repeat(3_000_000)};3\n3;Bowl;4\n`, 2, 1],
    ['quotes that are never closed', 's.csv', goods + many(2000, (i) => `${i};"Pot ${i};3`).join('\n'), 2000, 0],
    [
      'words in quotes at the beginning of cells',
      't.tsv',
      goods.replaceAll(';', '\t') + many(2000, (i) => `${i}\t"Moss" pot ${i}\t3`).join('\n'),
      2000,
      0,
    ],
    [
      'line ends of every kind',
      'u.csv',
      goods + many(999, (i) => `${i};Pot;3${['\n', '\r\n', '\r'][i % 3]}`).join(''),
      999,
      0,
    ],
    ['names that programmes stumble over', 'v.csv', '__proto__;constructor;toString\n1;a;b\n2;c;d\n', 2, 0],
    ['a row of a hundred thousand cells', 'w.csv', `${goods}1;Pot;3\n${'2;'.repeat(100_000)}\n3;Bowl;4\n`, 2, 1],
    [
      'columns at the end that have neither name nor value',
      'x.csv',
      'Art;Name;Price;;\n1;Pot;3;;\n2;Bowl;4\n3;Cup;5;;;;\n',
      3,
      0,
    ],
    [
      'an item that is deeper than the others',
      'y.jsonl',
      `{"id":1,"name":"a"}\n{"id":2,"x":${nest(200, '[', '1', ']')}}\n{"id":3,"name":"b"}\n`,
      2,
      1,
    ],
  ];
  it.each(read)('%s: every row is read or refused', async (_, name, content, good, bad) => {
    const answer = await client.uploadText(name, content);
    expect(answer.status, JSON.stringify(answer.body).slice(0, 300)).toBe(200);
    const { id, columns } = answer.body;
    const map = columns.map((column: string, i: number) => ({
      column,
      target: i === 0 ? { to: 'key' } : { to: 'ignore' },
    }));
    await client.send('PUT', `/api/batches/${id}/reading`, { map });
    await client.send('POST', `/api/batches/${id}/try`);
    const { counts } = await client.until(`/api/batches/${id}`, ({ state }) => state === 'tried');
    expect([counts.created + counts.joins + counts.changed + counts.unchanged, counts.refused]).toEqual([good, bad]);
  });

  it('in a form that is none is refused', async () => {
    const post = (type: string, body: string) =>
      client.send('POST', '/api/batches', undefined, { 'content-type': type, 'x-body': body });
    for (const type of ['multipart/form-data', 'multipart/form-data; boundary=', 'text/plain', 'application/json'])
      expect((await post(type, 'x')).status, type).toBe(400);
  });
});

describe('a request', () => {
  const raw = (path: string, body: string, headers: Record<string, string> = {}) =>
    fetch(`${base}${path}`, { method: 'POST', body, headers: { 'content-type': 'application/json', ...headers } });

  it('nested a hundred thousand deep is refused, without a session too', async () => {
    const deep = nest(5_000, '[', '', ']');
    expect((await raw('/api/session', `{"email":"x","password":${deep}}`)).status).toBe(400);
    const { cookie } = client as unknown as { cookie: string };
    const inside = await raw('/api/views', `{"condition":${nest(100_000, '{"not":', '{}', '}')}}`, { cookie });
    expect(inside.status).toBe(400);
    expect(await inside.text()).toContain('deep');
  });
  it('of somebody without a session is short', async () => {
    const answer = await raw('/api/session', JSON.stringify({ email: 'x', password: 'y'.repeat(50_000) }));
    expect(answer.status).toBe(413);
  });

  const leaf = { attribute: 'brand', op: 'is', value: 'x' };
  it.each([
    ['thousands of terms', { condition: { any: many(5000, () => '').map(() => leaf) } }],
    [
      'terms within terms',
      { condition: { any: many(30, () => '').map(() => ({ any: many(30, () => '').map(() => leaf) })) } },
    ],
    ['a nesting beyond reason', { condition: JSON.parse(nest(20, '{"not":', JSON.stringify(leaf), '}')) }],
    ['a search of seventy thousand words', { search: many(70_000, (i) => `w${i}`).join(' ') }],
    ['a column that is a word of the language', { sort: 'constructor' }],
    ['an attribute that is one', { condition: { attribute: '__proto__', op: 'is', value: 'x' } }],
  ])('for a view with %s is refused', async (_, body) => {
    const answer = await client.send('POST', '/api/views', body);
    expect(answer.status, JSON.stringify(answer.body).slice(0, 200)).toBe(400);
  });
  it('with a member named __proto__ is refused', async () => {
    const answer = await fetch(`${base}/api/session`, {
      method: 'POST',
      body: '{"email":"a","password":"b","__proto__":{"x":1}}',
      headers: { 'content-type': 'application/json' },
    });
    expect(answer.status).toBe(400);
  });
  it.each([
    '/api/export?columns=a&columns=b',
    '/api/export?format=exe',
    '/api/batches/abc/refused.csv',
    '/api/runs/abc/file',
    '/api/listings?limit=1e9',
    '/api/listings?cursor=99999999999999999999',
    '/api/listings?search=%00',
  ])('for %s is refused', async (path) => {
    expect((await client.get(path)).status).toBe(400);
  });

  it('with a rulebook whose pattern cannot be checked is refused with the place', async () => {
    const [held] = await queryRows<{ body: Body }>(db, sql`SELECT body FROM rulebook LIMIT 1`);
    for (const pattern of ['(', '(a)\\1', '(?<=x)y']) {
      const rulebook = structuredClone(held?.body);
      rulebook.version = 'attack';
      rulebook.attributes.find((attribute: Body) => attribute.type === 'text').limits.pattern = pattern;
      const answer = await client.send('POST', '/api/places/1/rulebooks', { rulebook });
      expect(answer.status).toBe(400);
      expect(answer.body.detail).toContain('limits.pattern');
    }
  });

  it('under a name that is not ours is not answered', async () => {
    const status = await new Promise<number | undefined>((resolve, reject) => {
      const { hostname, port } = new URL(base);
      request({ hostname, port, path: '/api/health', headers: { host: 'attacker.example' } }, (answer) => {
        answer.resume();
        resolve(answer.statusCode);
      })
        .once('error', reject)
        .end();
    });
    expect(status).toBe(421);
  });
  it('from somebody else’s page is not taken', async () => {
    expect((await client.send('POST', '/api/views', {}, { origin: 'https://attacker.example' })).status).toBe(403);
  });
  it('is answered with headers that keep it to whom it was sent', async () => {
    const { headers } = await client.get('/api/session');
    expect(headers.get('cache-control')).toContain('no-store');
    const policy = headers.get('content-security-policy') ?? '';
    for (const rule of ["base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'"])
      expect(policy).toContain(rule);
  });

  it('that somebody gave up is stopped in the database', async () => {
    const holder = await db.$client.connect();
    // The history is read by nobody but who asks for it: what goes on beside requests waits for no lock on it.
    const waiting = async () =>
      (
        await queryRows<{ n: number }>(
          db,
          sql`SELECT count(*)::int AS n FROM pg_locks WHERE NOT granted AND relation = 'action'::regclass`,
        )
      )[0]?.n ?? 0;
    try {
      await holder.query('BEGIN');
      await holder.query('LOCK TABLE action IN ACCESS EXCLUSIVE MODE');
      const stop = new AbortController();
      const cookie = (client as unknown as { cookie: string }).cookie;
      const asked = fetch(`${base}/api/actions`, { signal: stop.signal, headers: { cookie } }).catch(() => undefined);
      await until('the statement', waiting, (n) => n > 0);
      stop.abort();
      await asked;
      await until('its end', waiting, (n) => n === 0);
    } finally {
      await holder.query('ROLLBACK');
      holder.release();
    }
  });
});

describe('a session', () => {
  it('is not opened by guessing', async () => {
    const guess = () => new Client().signIn('victim@mosswick.example', 'wrong');
    const statuses = [];
    for (let i = 0; i < 12; i++) statuses.push((await guess()).status);
    expect(statuses.slice(0, 10)).toEqual(many(10, () => '').map(() => 401));
    expect(statuses.slice(10)).toEqual([429, 429]);
    const last = await guess();
    expect(Number(last.headers.get('retry-after'))).toBeGreaterThan(0);
    // Others are not kept out by it.
    expect((await new Client().signIn()).status).toBe(200);
  });
  it('ends when it has long not been used', async () => {
    const other = new Client();
    await other.signIn();
    expect((await other.get('/api/session')).status).toBe(200);
    await db.execute(
      sql`UPDATE session SET used_at = now() - interval '13 hours' WHERE token_hash = (SELECT token_hash FROM session ORDER BY expires DESC LIMIT 1)`,
    );
    expect((await other.get('/api/session')).status).toBe(401);
  });
  it('that ends, ends its stream of events', async () => {
    const other = new Client();
    await other.signIn();
    const stream = await other.open('/api/events');
    expect(stream.status).toBe(200);
    const ended = (async () => {
      await stream.text();
      return true;
    })();
    await other.send('DELETE', '/api/session');
    expect(await ended).toBe(true);
  });
  it('leaves a cookie that no script reads and no other site sends', async () => {
    const answer = await new Client().signIn();
    expect(answer.headers.get('set-cookie')).toMatch(/httponly/i);
    expect(answer.headers.get('set-cookie')).toMatch(/samesite=lax/i);
  });
});
