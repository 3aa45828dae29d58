/** Server-sent events: "this changed" notices, so that browsers ask again. PostgreSQL carries them between processes. */
import { PassThrough } from 'node:stream';
import type { Context } from 'koa';
import type pg from 'pg';
import type { Database } from '../db/client.js';
import { Problem } from './problem.js';

const channelName = 'velvet_events';

interface Listener {
  stream: PassThrough;
  session: string;
}

const listeners = new Set<Listener>();
/** Notices of late, oldest first: who opens a stream hears what was said while its page was already being read. */
const late: { at: number; topic: string }[] = [];
const keptMilliseconds = 60_000;
const mostKept = 2000;
/** One browser needs one; many are somebody who opens them without end. */
const mostOfSession = 20;
const beatMilliseconds = 25_000;

/** Listens to the database and hands notices to every open browser; listens again when the database comes back. */
export async function listenForEvents(db: Database): Promise<() => void> {
  let stopped = false;
  let current: pg.PoolClient | undefined;
  let isAgain = false;
  const listen = async () => {
    const client = await db.$client.connect();
    current = client;
    client.on('notification', ({ payload }) => hand(payload ?? '{}'));
    client.once('end', () => {
      if (!stopped) retry();
    });
    await client.query(`LISTEN ${channelName}`);
    // What was said while nobody listened is not known.
    if (isAgain) say(JSON.stringify({ topic: 'everything' }));
    isAgain = true;
  };
  const retry = () => {
    setTimeout(() => void (stopped ? undefined : listen().catch(retry)), 1000).unref();
  };
  await listen();
  return () => {
    stopped = true;
    for (const { stream } of listeners) stream.end();
    current?.release(true);
  };
}

function hand(payload: string): void {
  const { topic, session } = JSON.parse(payload) as { topic?: string; session?: string };
  if (topic === undefined) return;
  if (topic !== 'signed-out') {
    keep(topic);
    say(payload);
    return;
  }
  for (const listener of listeners) if (listener.session === session) listener.stream.end();
}

function say(payload: string): void {
  for (const { stream } of listeners) stream.write(`data: ${payload}\n\n`);
}

function keep(topic: string): void {
  const at = Date.now();
  late.push({ at, topic });
  const from = late.findIndex((notice) => notice.at >= at - keptMilliseconds);
  late.splice(0, Math.max(from, late.length - mostKept));
}

/** What changed in the last so many milliseconds, each topic once; everything may have, where that is longer than is kept. */
function topicsSince(milliseconds: number): string[] {
  const from = Date.now() - milliseconds;
  if (milliseconds > keptMilliseconds || (late.length >= mostKept && (late[0]?.at ?? 0) > from)) return ['everything'];
  return [...new Set(late.filter(({ at }) => at >= from).map(({ topic }) => topic))];
}

export function notifier(db: Database): (topic: string, detail?: Record<string, unknown>) => void {
  return (topic, detail = {}) => {
    // A notice that is lost is made up for by the next: nobody waits for it.
    db.$client
      .query('SELECT pg_notify($1, $2)', [channelName, JSON.stringify({ topic, ...detail })])
      .catch(() => undefined);
  };
}

/**
 * Opens a stream that ends with its session: `isOpen` tells whether that still is one. It begins with what changed in the
 * last `since` milliseconds.
 */
export function openEvents(ctx: Context, session: string, since: number, isOpen: () => Promise<boolean>): void {
  if ([...listeners].filter((listener) => listener.session === session).length >= mostOfSession)
    throw new Problem(429, 'Too many streams', 'One stream of events is enough for a browser');
  const stream = new PassThrough();
  ctx.type = 'text/event-stream';
  ctx.set('Cache-Control', 'no-cache, no-store, no-transform');
  ctx.status = 200;
  ctx.body = stream;
  stream.write(': open\n\n');
  for (const topic of topicsSince(since)) stream.write(`data: ${JSON.stringify({ topic })}\n\n`);
  const beat = setInterval(() => {
    stream.write(': beat\n\n');
    isOpen().then(
      (open) => void (open ? undefined : stream.end()),
      // The database is away: asked again with the next beat.
      () => undefined,
    );
  }, beatMilliseconds);
  const listener = { stream, session };
  listeners.add(listener);
  stream.on('close', () => {
    clearInterval(beat);
    listeners.delete(listener);
  });
  ctx.req.on('close', () => stream.end());
}
