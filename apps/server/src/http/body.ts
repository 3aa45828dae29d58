/** JSON bodies: read whole within a limit, which is small for whoever has no session. */
import type { Context, Next } from 'koa';
import getRawBody from 'raw-body';
import { sayCount } from '@velvet-shelf/core/values';
import { Problem, badRequest } from './problem.js';
import type { State } from './route.js';

const limits = { stranger: 16_384, user: 20_000_000 };

export async function jsonBody(ctx: Context, next: Next): Promise<void> {
  if (ctx.is('application/json')) {
    if (ctx.get('content-encoding')) throw badRequest('Send the body as it is, without a content encoding');
    const limit = (ctx.state as State).user ? limits.user : limits.stranger;
    const text = await getRawBody(ctx.req, {
      limit,
      length: ctx.get('content-length') || null,
      encoding: 'utf8',
    }).catch((error: unknown) => {
      if ((error as { type?: string }).type === 'entity.too.large') {
        // Whoever goes on sending is not listened to.
        ctx.set('Connection', 'close');
        throw new Problem(413, 'The request is too large', `A request like this has ${sayCount(limit)} bytes at most`);
      }
      throw badRequest('The body was cut off');
    });
    (ctx.request as { body?: unknown }).body = parse(text);
  }
  await next();
}

function parse(text: string): unknown {
  try {
    return text === '' ? {} : JSON.parse(text);
  } catch {
    throw badRequest('The body is not JSON');
  }
}
