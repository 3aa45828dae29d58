/**
 * All that goes out to the world: addresses other people typed or their servers named. No connection is made to loopback,
 * private or link-local networks, after redirects neither, unless a setting allows that host; what comes back has a limit.
 */
import { createHash } from 'node:crypto';
import { lookup } from 'node:dns';
import { createWriteStream } from 'node:fs';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { type LookupFunction, isIP } from 'node:net';
import ipaddr from 'ipaddr.js';
import { Agent, type Response, buildConnector, fetch } from 'undici';
import type { Config } from '../config.js';
import { Problem } from '../http/problem.js';

export interface Sent {
  method?: 'GET' | 'POST';
  /** Sent as JSON. */
  body?: unknown;
  /** Whose behalf it is asked on (RFC 6750); no log and no message holds it. */
  token?: string | undefined;
  /** Milliseconds until it is given up. */
  patience?: number;
  /** Most bytes of an answer that are read. */
  limit?: number;
}

export interface Came {
  status: number;
  ok: boolean;
  text: string;
}

/** It did not answer, or not so that it could be read; the message says how, for people. */
export class Unreachable extends Error {}

const usualPatience = 30_000;
const usualLimit = 20_000_000;
const downloadPatience = 600_000;

class PrivateAddress extends Error {}

/** A public address of the internet (RFC 6890 lists what is none); IPv4 inside IPv6 counts as what it holds. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const read = ipaddr.process(address);
  return read.range() === 'unicast';
}

const publicLookup: LookupFunction = (host, options, callback) => {
  lookup(host, { ...options, all: true }, (error, found) => {
    if (error) return callback(error, []);
    const list = Array.isArray(found) ? found : [found];
    if (list.length === 0 || list.some(({ address }) => !isPublic(address)))
      return callback(new PrivateAddress(host), []);
    const [first] = list;
    if (options.all) callback(null, list);
    else callback(null, first?.address ?? '', first?.family);
  });
};

const agents = new WeakMap<Config, Agent>();

/** Looks at the address of every connection there is made, whatever led to it. */
function agentOf(config: Config): Agent {
  const known = agents.get(config);
  if (known) return known;
  const plain = buildConnector({ timeout: 10_000 });
  const careful = buildConnector({ timeout: 10_000, lookup: publicLookup });
  const agent = new Agent({
    connect(options, callback) {
      const host = options.hostname.replace(/^\[|\]$/g, '').toLowerCase();
      const port = options.port || (options.protocol === 'https:' ? '443' : '80');
      if (config.privateHosts.has(host) || config.privateHosts.has(`${host}:${port}`)) plain(options, callback);
      else if (isIP(host) && !isPublic(host)) callback(new PrivateAddress(host), null);
      else careful(options, callback);
    },
  });
  agents.set(config, agent);
  return agent;
}

/** Asks an address; throws Unreachable, or a Problem where the address is one that is never asked. */
export async function reachOut(config: Config, address: string | URL, sent: Sent = {}): Promise<Came> {
  const { limit = usualLimit } = sent;
  return asking(config, address, sent, async (answer) => {
    const chunks: Uint8Array[] = [];
    for await (const chunk of limited(answer.body, limit)) chunks.push(chunk);
    return { status: answer.status, ok: answer.ok, text: Buffer.concat(chunks).toString('utf8') };
  });
}

export interface Downloaded {
  status: number;
  ok: boolean;
  bytes: number;
  /** Of the content, in hexadecimal. */
  sha256: string;
  /** As the other side names the file (RFC 6266), else the end of its address. */
  name: string;
}

/** Writes what stands at an address into a file, piece by piece; the same is refused as by `reachOut`. */
export async function download(
  config: Config,
  address: string | URL,
  path: string,
  { limit, patience = downloadPatience }: { limit: number; patience?: number },
): Promise<Downloaded> {
  return asking(config, address, { patience }, async (answer) => {
    const hash = createHash('sha256');
    let bytes = 0;
    await pipeline(
      limited(answer.body, limit),
      async function* (chunks: AsyncIterable<Uint8Array>) {
        for await (const chunk of chunks) {
          hash.update(chunk);
          bytes += chunk.length;
          yield chunk;
        }
      },
      createWriteStream(path),
    );
    const disposition = answer.headers.get('content-disposition') ?? '';
    const said = /filename\*?=(?:UTF-8'')?"?([^";]+)/i.exec(disposition)?.[1];
    const name = basename(decoded(said ?? new URL(answer.url || String(address)).pathname)).slice(0, 200);
    return { status: answer.status, ok: answer.ok, bytes, sha256: hash.digest('hex'), name };
  });
}

/** A name as it reads; one that is wrongly encoded stays as it is written. */
function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

async function* limited(body: AsyncIterable<Uint8Array> | null, limit: number): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of body ?? []) {
    bytes += chunk.length;
    if (bytes > limit) throw new Unreachable(`sent more than ${Math.round(limit / 1e6)} MB at once`);
    yield chunk;
  }
}

async function asking<T>(
  config: Config,
  address: string | URL,
  { method = 'GET', body, token, patience = usualPatience }: Sent,
  read: (answer: Response) => Promise<T>,
): Promise<T> {
  const url = URL.canParse(String(address)) ? new URL(address) : undefined;
  if (!url || !/^https?:$/.test(url.protocol))
    throw new Problem(422, 'This cannot be fetched', 'Addresses begin with http:// or https://');
  try {
    const answer = await fetch(url, {
      method,
      dispatcher: agentOf(config),
      signal: AbortSignal.timeout(patience),
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(token === undefined ? {} : { authorization: `Bearer ${token}` }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    return await read(answer);
  } catch (error) {
    if (error instanceof Unreachable) throw error;
    if (causes(error).some((cause) => cause instanceof PrivateAddress))
      throw new Problem(
        422,
        'This is not fetched',
        'The address leads to this machine or to a private network. VELVET_PRIVATE_HOSTS lists hosts for which that is allowed.',
      );
    throw new Unreachable(sayFault(error));
  }
}

function* chain(error: unknown): Generator<unknown> {
  for (let at = error; at !== undefined && at !== null; at = (at as { cause?: unknown }).cause) yield at;
}
const causes = (error: unknown) => [...chain(error)];

/** Why, without a word of what else answers there. */
function sayFault(error: unknown): string {
  const list = causes(error) as { name?: string; code?: string }[];
  if (list.some(({ name }) => name === 'TimeoutError')) return 'did not answer in time';
  if (list.some(({ code }) => code === 'ENOTFOUND')) return 'has no such host';
  return 'did not answer';
}
