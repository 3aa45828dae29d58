/** Skarvelund Torg: a regional marketplace, joined with an id and its secret. */
import type Router from '@koa/router';
import type pg from 'pg';
import { joining } from '../joining.js';
import { publishing } from '../publishing.js';

export async function skarvelund(router: Router, pool: pg.Pool): Promise<void> {
  publishing(router, 'skarvelund');
  await joining(router, pool, {
    key: 'skarvelund',
    name: 'Skarvelund Torg',
    by: 'secret',
    lets: [],
    secrets: { 'mosswick-04417': 'lingon-och-ljung' },
    mood: {
      missing: [],
      late: 0,
      cancelled: 0,
      notices: [],
      terms: [
        { kind: 'leveranssatt', key: 'ombud', label: 'Till ombud' },
        { kind: 'leveranssatt', key: 'hem', label: 'Hem till dörren' },
      ],
      tokenSeconds: 3600,
      renews: false,
    },
  });
}
