/** A signed-in client of the server under test. */
import { readFile } from 'node:fs/promises';
import { openDatabase, queryOne } from '@velvet-shelf/server/db/client';
import type { SQL } from 'drizzle-orm';

export const base = process.env.VELVET_TEST_URL ?? '';
export const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 3 });

export interface Answer {
  status: number;
  headers: Headers;
  // Answers are read as a browser would, without our types.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any;
}

export class Client {
  private cookie = '';

  async signIn(email = 'iris@mosswick.example', password = 'shelf-demo'): Promise<Answer> {
    const answer = await this.send('POST', '/api/session', { email, password });
    this.cookie = (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
    return answer;
  }

  async send(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> {
    const isForm = body instanceof FormData;
    const answer = await fetch(base + path, {
      method,
      headers: {
        ...(body === undefined || isForm ? {} : { 'content-type': 'application/json' }),
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...headers,
      },
      ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
    });
    return read(answer);
  }

  get = (path: string) => this.send('GET', path);

  /** An answer that goes on, as it comes. */
  open = (path: string, signal?: AbortSignal): Promise<Response> =>
    fetch(base + path, { headers: { cookie: this.cookie }, ...(signal ? { signal } : {}) });

  /** A batch tried, applied, and corrected in how it is read. */
  tried = async (id: number) => (await this.send('POST', `/api/batches/${id}/try`)).body;
  applied = async (id: number) => (await this.send('POST', `/api/batches/${id}/apply`)).body;
  /** A small batch is answered when it is done, but where a deadlock took it back: then it is done once more beside the request. */
  settled = async (batch: Answer['body']): Promise<Answer['body']> =>
    ['trying', 'applying'].includes(batch.state)
      ? this.until(`/api/batches/${batch.id}`, ({ state }) => state !== 'trying' && state !== 'applying')
      : batch;
  correct = (id: number, body: object) => this.send('PUT', `/api/batches/${id}/reading`, body);

  /** The first rows of a batch, of one outcome or of all. */
  rowsOf = async (id: number, outcome = ''): Promise<Answer['body'][]> =>
    (await this.get(`/api/batches/${id}/rows?limit=200${outcome === '' ? '' : `&outcome=${outcome}`}`)).body.items;

  /** A supplier made for a test; answers its number. */
  supplier = async (name: string): Promise<number> => (await this.send('POST', '/api/suppliers', { name })).body.id;

  /** As nobody says whose it is. */
  async uploadOnly(name: string, bytes: Uint8Array, path = '/api/batches'): Promise<Answer> {
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(bytes)]), name);
    return this.send('POST', path, form);
  }

  /** What nothing proves to be somebody's is said to be ours. */
  async upload(name: string, bytes: Uint8Array): Promise<Answer> {
    const sent = await this.uploadOnly(name, bytes);
    if (sent.status !== 200 || sent.body.supplier !== null) return sent;
    const own = (await this.get('/api/suppliers')).body.items.find((body: { kind: string }) => body.kind === 'own');
    return this.send('PUT', `/api/batches/${sent.body.id}/reading`, { supplierId: own.id });
  }

  uploadDemo = async (name: string) =>
    this.upload(name, await readFile(new URL(`../../../demo/files/intake/${name}`, import.meta.url)));

  async bytes(path: string): Promise<Uint8Array> {
    const answer = await fetch(base + path, { headers: { cookie: this.cookie } });
    return new Uint8Array(await answer.arrayBuffer());
  }

  uploadText = (name: string, text: string) => this.upload(name, new TextEncoder().encode(text));

  /** Asks again and again until the answer is as wanted. */
  async until(path: string, wanted: (body: Answer['body']) => boolean): Promise<Answer['body']> {
    return until(path, async () => (await this.get(path)).body, wanted);
  }

  /** Waits until nothing is at work beside the requests; a job that failed is shown for a while, and is not. */
  idle = () =>
    this.until(
      '/api/shelf',
      ({ jobs, rechecking }) => rechecking === 0 && jobs.every((job: { state: string }) => job.state === 'failed'),
    );

  /** What was done last. */
  newest = async (): Promise<Answer['body']> => (await this.get('/api/actions')).body.items[0];

  /** Takes an action back, or the last there is. */
  undo = async (action?: number): Promise<Answer> =>
    this.send('POST', `/api/actions/${action ?? (await this.newest()).id}/undo`);

  /** Takes back the last that is not undone; answers what the undo says. */
  undoLast = async (): Promise<Answer['body']> => {
    const { items } = (await this.get('/api/actions')).body;
    return (await this.undo(items.find(({ canUndo }: { canUndo: boolean }) => canUndo).id)).body;
  };

  /** Three made-up suppliers. */
  async addSuppliers(): Promise<Answer['body'][]> {
    const added = [];
    for (const name of ['Aldermoor', 'Birkrigg', 'Coldfell'])
      added.push((await this.send('POST', '/api/suppliers', { name })).body);
    return added;
  }

  /** Brings a list in as this supplier's; answers the batch. */
  async bringInFor(supplier: Answer['body'], list: string): Promise<Answer> {
    const { body } = await this.uploadText(`${supplier.name}.csv`, list);
    await this.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id });
    await this.send('POST', `/api/batches/${body.id}/try`);
    return this.send('POST', `/api/batches/${body.id}/apply`);
  }

  /** Our own sheet is in: it is where a file that asks for it begins with it, else it is brought in. */
  async stocked(): Promise<void> {
    const { items } = (await this.get('/api/batches')).body;
    if (items.length === 0) await this.bringIn('mosswick-own.tsv');
  }

  /** A channel of this rulebook and a place on it, with all goods in; answers the place's number. */
  async placeOn(rulebook: object): Promise<number> {
    const { body: channel } = await this.send('POST', '/api/channels', { rulebook });
    const { body: place } = await this.send('POST', `/api/channels/${channel.id}/places`, {
      market: 'GB',
      name: 'Stall',
    });
    await this.idle();
    return place.id;
  }

  /** Uploads, tries and applies; answers the batch. */
  async bringIn(name: string) {
    const { body } = await this.uploadDemo(name);
    await this.send('POST', `/api/batches/${body.id}/try`);
    return (await this.send('POST', `/api/batches/${body.id}/apply`)).body;
  }
}

/** Asks again and again until the answer is as wanted; long, because machines have slow days. */
export async function until<T>(what: string, ask: () => Promise<T>, wanted: (answer: T) => boolean): Promise<T> {
  let answer = await ask();
  for (const end = Date.now() + 120_000; Date.now() < end && !wanted(answer); answer = await ask())
    await new Promise((resolve) => setTimeout(resolve, 50));
  if (wanted(answer)) return answer;
  throw new Error(`${what} did not come to what was waited for, it is ${JSON.stringify(answer).slice(0, 2000)}`);
}

async function read(answer: Response): Promise<Answer> {
  const text = await answer.text();
  const json = /json/.test(answer.headers.get('content-type') ?? '');
  return { status: answer.status, headers: answer.headers, body: json ? JSON.parse(text) : text };
}

/** The figure `n` of a statement. */
export const count = async (statement: SQL): Promise<number> =>
  Number((await queryOne<{ n: number }>(db, statement))?.n);
