/** The server that is measured, asked as a browser asks it. */
export const base = process.env.VELVET_TEST_URL ?? '';
export const person = { email: 'iris@mosswick.example', password: 'shelf-demo' };
let cookie = '';

export async function signIn(): Promise<void> {
  const signed = await post('/api/session', person);
  cookie = (signed.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
}

/** Milliseconds until the whole answer has come. */
export async function ask(path: string, init: RequestInit = {}): Promise<number> {
  const start = performance.now();
  const answer = await fetch(base + path, { ...init, headers: { ...init.headers, cookie } });
  await answer.arrayBuffer();
  if (answer.status >= 500) throw new Error(`${path} answered ${answer.status}`);
  return performance.now() - start;
}

export const post = (path: string, body: unknown) =>
  fetch(base + path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json', cookie },
  });

export const percentile = (times: number[], share: number) =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;

/** Its token. */
export async function openView(view: object): Promise<string> {
  const { token } = (await (await post('/api/views', view)).json()) as { token: string };
  return token;
}
