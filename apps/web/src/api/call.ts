/** Calls endpoints of the contract; what people caused comes back as a Problem. */
import type { Endpoint } from '@velvet-shelf/contract';
import type { z } from 'zod';

export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail);
  }
}

export type Given<E extends Endpoint> = {
  params?: z.input<E['params']>;
  query?: z.input<E['query']>;
  body?: z.input<E['body']>;
};

export async function call<E extends Endpoint>(endpoint: E, given: Given<E> = {}): Promise<z.output<E['answer']>> {
  const params = (given.params ?? {}) as Record<string, unknown>;
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(given.query ?? {}))
    if (value !== undefined && value !== '') query.set(name, String(value));
  const send = async (headers: Record<string, string>) => {
    const answer = await reach(`${path}${query.size > 0 ? `?${query}` : ''}`, {
      method: endpoint.method,
      ...(given.body === undefined
        ? { headers }
        : { body: JSON.stringify(given.body), headers: { ...headers, 'content-type': 'application/json' } }),
    });
    return (await answer.json()) as z.output<E['answer']>;
  };
  if (!endpoint.once) return send({});
  return doOnce(`${endpoint.method} ${path} ${JSON.stringify(given.body ?? {})}`, send);
}

/** Sends a file where an endpoint takes one. */
export async function sendFile<E extends Endpoint>(endpoint: E, file: File): Promise<z.output<E['answer']>> {
  const form = new FormData();
  form.append('file', file);
  const answer = await reach(endpoint.path, { method: endpoint.method, body: form });
  return (await answer.json()) as z.output<E['answer']>;
}

const underWay = new Map<string, Promise<unknown>>();

/** Pressed twice, or sent again because the connection was lost, it is done once. */
function doOnce<T>(what: string, send: (headers: Record<string, string>) => Promise<T>): Promise<T> {
  const known = underWay.get(what) as Promise<T> | undefined;
  if (known) return known;
  const headers = { 'idempotency-key': newKey() };
  const work = send(headers)
    .catch((problem: unknown) => {
      if (problem instanceof ApiProblem && problem.status === 0) return send(headers);
      throw problem;
    })
    .finally(() => underWay.delete(what));
  underWay.set(what, work);
  return work;
}

/** Not `randomUUID`: browsers have it on secure pages only. */
const newKey = () =>
  [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, '0')).join('');

/** fetch that turns problem details and dead connections into an ApiProblem. */
export async function reach(path: string, init: RequestInit): Promise<Response> {
  let answer: Response;
  try {
    answer = await fetch(path, init);
  } catch {
    throw new ApiProblem(
      0,
      'No connection',
      'The server cannot be reached. Nothing was changed; try again in a moment.',
    );
  }
  if (answer.ok) return answer;
  const body = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
  throw new ApiProblem(
    answer.status,
    String(body.title ?? answer.statusText),
    String(body.detail ?? `The server answered ${answer.status}`),
    body,
  );
}
