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

type Given<E extends Endpoint> = {
  params?: z.input<E['params']>;
  query?: z.input<E['query']>;
  body?: z.input<E['body']>;
};

export async function call<E extends Endpoint>(endpoint: E, given: Given<E> = {}): Promise<z.output<E['answer']>> {
  const params = (given.params ?? {}) as Record<string, unknown>;
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries((given.query ?? {}) as Record<string, unknown>))
    if (value !== undefined && value !== '') query.set(name, String(value));
  const answer = await reach(`${path}${query.size > 0 ? `?${query}` : ''}`, {
    method: endpoint.method,
    ...(given.body === undefined
      ? {}
      : { body: JSON.stringify(given.body), headers: { 'content-type': 'application/json' } }),
  });
  return (await answer.json()) as z.output<E['answer']>;
}

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
