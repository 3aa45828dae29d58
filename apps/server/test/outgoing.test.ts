/** What we fetch: no private address, whatever leads there, and bounds of size and time. */
import { type Server, createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { readConfig } from '@velvet-shelf/server/config';
import { isPublic, reachOut } from '@velvet-shelf/server/outgoing/reach';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
beforeAll(async () => void (await client.signIn()));
afterAll(() => db.$client.end());

describe('an address to fetch from', () => {
  it.each([
    '127.0.0.1',
    '10.1.2.3',
    '192.168.0.1',
    '172.16.9.9',
    '169.254.169.254',
    '100.64.0.1',
    '0.0.0.0',
    '::1',
    'fe80::1',
    'fd00::1',
    '::ffff:127.0.0.1',
    '224.0.0.1',
  ])('%s is no public one', (address) => expect(isPublic(address)).toBe(false));
  it.each(['93.184.216.34', '2606:2800:220:1:248:1893:25c8:1946'])('%s is', (address) =>
    expect(isPublic(address)).toBe(true),
  );

  it.each([
    'http://127.0.0.1:5432/',
    'http://localhost/',
    'http://[::1]/',
    'http://2130706433/',
    'http://10.0.0.1/',
    'file:///etc/passwd',
    'gopher://x/',
  ])('of a pull that leads to %s is refused, and tells nothing of what is there', async (address) => {
    const suppliers = (await client.get('/api/suppliers')).body.items;
    const saved = await client.send('POST', '/api/pulls', {
      supplierId: suppliers[0].id,
      name: `Attack ${address}`,
      address,
      schedule: null,
    });
    if (saved.status !== 200) {
      expect(saved.status).toBe(400);
      return;
    }
    await client.send('POST', `/api/pulls/${saved.body.id}/start`);
    const pull = await client.until(
      '/api/pulls',
      ({ items }) => items.find((row: Body) => row.id === saved.body.id).lastError,
    );
    expect(pull.items.find((pull: Body) => pull.id === saved.body.id).lastError).toContain('private network');
    expect((await client.send('DELETE', `/api/pulls/${saved.body.id}`)).status).toBe(200);
  });

  describe('of our own', () => {
    let open: Server;
    let hidden: Server;
    const listen = (server: Server) =>
      new Promise<number>((resolve) =>
        server.listen(0, '127.0.0.1', () => resolve((server.address() as AddressInfo).port)),
      );
    let port: number;
    beforeAll(async () => {
      hidden = createServer((_, answer) => answer.end('secret'));
      const secret = await listen(hidden);
      open = createServer((asked, answer) => {
        if (asked.url === '/away') answer.writeHead(302, { location: `http://127.0.0.1:${secret}/` }).end();
        else if (asked.url === '/long') for (let i = 0; i < 100; i++) answer.write('x'.repeat(10_000));
        else if (asked.url === '/good') answer.end('fine');
      });
      port = await listen(open);
    });
    afterAll(() => {
      for (const server of [open, hidden]) {
        server.closeAllConnections();
        server.close();
      }
    });
    const config = () => ({ ...readConfig(), privateHosts: new Set([`127.0.0.1:${port}`]) });
    it('is fetched where a setting allows it', async () => {
      expect(await reachOut(config(), `http://127.0.0.1:${port}/good`)).toMatchObject({ status: 200, text: 'fine' });
    });
    it('that sends on to another one is not followed', async () => {
      await expect(reachOut(config(), `http://127.0.0.1:${port}/away`)).rejects.toThrow(/private network/);
    });
    it('that never ends, or sends without end, is given up', async () => {
      await expect(reachOut(config(), `http://127.0.0.1:${port}/slow`, { patience: 200 })).rejects.toThrow(/in time/);
      await expect(reachOut(config(), `http://127.0.0.1:${port}/long`, { limit: 50_000 })).rejects.toThrow(
        /MB at once/,
      );
    });
  });

  it('is not asked more often than once a minute', async () => {
    const suppliers = (await client.get('/api/suppliers')).body.items;
    const wish = {
      supplierId: suppliers[0].id,
      name: 'Often',
      address: 'https://goods.example/',
      schedule: '* * * * * *',
    };
    expect((await client.send('POST', '/api/pulls', wish)).status).toBe(400);
  });
});
