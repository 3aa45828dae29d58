/** Quernby: a marketplace with accounts that are joined by consent, plans kept in them, and rulebooks it publishes. */
import type Router from '@koa/router';
import type pg from 'pg';
import { joining } from '../joining.js';
import { placing } from '../placing.js';
import { publishing } from '../publishing.js';

export async function quernby(router: Router, pool: pg.Pool): Promise<void> {
  publishing(router, 'quernby');
  const isLetIn = await joining(router, pool, {
    key: 'quernby',
    name: 'Quernby',
    by: 'consent',
    regions: { isles: 'The isles', mainland: 'The mainland' },
    lets: [
      'read your articles, plans and standing, and ask where articles belong',
      'put articles up, change them and take them down',
      'read what was ordered',
    ],
    mood: {
      missing: ['Payment details: where your earnings are to go'],
      late: 1.4,
      cancelled: 0.6,
      notices: ['From February headings may have 80 characters'],
      terms: [
        { kind: 'parcel-plan', key: 'small-two-days', label: 'Small parcel, two days' },
        { kind: 'parcel-plan', key: 'large-four-days', label: 'Large parcel, four days' },
        { kind: 'parcel-plan', key: 'letter', label: 'Letter' },
        { kind: 'after-sale-plan', key: 'thirty-days', label: 'Taken back for 30 days' },
        { kind: 'after-sale-plan', key: 'as-the-law', label: 'As the law has it' },
      ],
      tokenSeconds: 3600,
      renews: true,
    },
  });
  placing(router, 'quernby', isLetIn);
}
