/** Tansel: a social catalogue that is told an address first, and hands out a token once it has seen enough goods there. */
import type Router from '@koa/router';
import type pg from 'pg';
import { joining } from '../joining.js';
import { publishing } from '../publishing.js';

export async function tansel(router: Router, pool: pg.Pool): Promise<void> {
  publishing(router, 'tansel');
  await joining(router, pool, {
    key: 'tansel',
    name: 'Tansel',
    by: 'token',
    lets: [],
    mood: {
      missing: ['A first file with at least 25 goods'],
      late: 0,
      cancelled: 0,
      notices: [],
      terms: [],
      tokenSeconds: 86_400,
      renews: false,
    },
  });
}
