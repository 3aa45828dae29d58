/** Server-sent events: "this changed" notices, so that browsers ask again. PostgreSQL carries them between processes. */
import { PassThrough } from 'node:stream';
import type { Context } from 'koa';
import type pg from 'pg';
import type { Database } from '../db/client.js';

const channelName = 'velvet_events';
const listeners = new Set<PassThrough>();

/** Listens to the database and hands notices to every open browser; listens again when the database comes back. */
export async function listenForEvents(db: Database): Promise<() => void> {
  let stopped = false;
  let current: pg.PoolClient | undefined;
  const listen = async () => {
    const client = await db.$client.connect();
    current = client;
    client.on('notification', ({ payload }) => {
      for (const stream of listeners) stream.write(`data: ${payload ?? '{}'}\n\n`);
    });
    client.once('end', () => {
      if (!stopped) retry();
    });
    await client.query(`LISTEN ${channelName}`);
  };
  const retry = () => {
    setTimeout(() => void (stopped ? undefined : listen().catch(retry)), 1000).unref();
  };
  await listen();
  return () => {
    stopped = true;
    for (const stream of listeners) stream.end();
    current?.release(true);
  };
}

export function notifier(db: Database): (topic: string, detail?: Record<string, unknown>) => void {
  return (topic, detail = {}) => {
    db.$client
      .query('SELECT pg_notify($1, $2)', [channelName, JSON.stringify({ topic, ...detail })])
      .catch(() => undefined);
  };
}

export function openEvents(ctx: Context): void {
  const stream = new PassThrough();
  ctx.type = 'text/event-stream';
  ctx.set('Cache-Control', 'no-cache, no-transform');
  ctx.status = 200;
  ctx.body = stream;
  stream.write(': open\n\n');
  const beat = setInterval(() => stream.write(': beat\n\n'), 25_000);
  listeners.add(stream);
  const close = () => {
    clearInterval(beat);
    listeners.delete(stream);
  };
  stream.on('close', close);
  ctx.req.on('close', () => stream.end());
}
