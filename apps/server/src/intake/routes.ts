import { type SupplierAnswer, api } from '@velvet-shelf/contract';
import { csvCell } from '@velvet-shelf/core/tabular';
import { sql } from 'drizzle-orm';
import { rows } from '../db/client.js';
import { Problem } from '../http/problem.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { receiveFile } from './file.js';
import {
  applyTried,
  correctBatch,
  dryRun,
  listBatches,
  listRows,
  readBatch,
  refusedFile,
  showBatch,
  undoApplied,
} from './service.js';

export function intakeRoutes(router: AppRouter, services: Services): void {
  const { db, config } = services;
  route(router, api.intake.suppliers, async () => ({
    items: await rows<SupplierAnswer>(
      db,
      sql`SELECT id, key, name, rank, kind, (SELECT count(*) FROM record r WHERE r.supplier_id = s.id AND r.content_id IS NOT NULL) AS records FROM supplier s ORDER BY rank`,
    ),
  }));
  route(router, api.intake.batches, ({ query }) => listBatches(services, query.cursor, query.limit));
  route(router, api.intake.batch, ({ params }) => showBatch(services, params.id));
  route(router, api.intake.reading, async ({ params, body }) => {
    await correctBatch(services, params.id, body);
    return showBatch(services, params.id);
  });
  route(router, api.intake.tryOut, async ({ params }) => {
    await dryRun(services, params.id);
    return showBatch(services, params.id);
  });
  route(router, api.intake.rows, ({ params, query }) => listRows(services, params.id, query));
  route(router, api.intake.apply, async ({ params, user }) => {
    await applyTried(services, params.id, user);
    return showBatch(services, params.id);
  });
  route(router, api.intake.undo, async ({ params, user }) => {
    const left = await undoApplied(services, params.id, user);
    return { batch: await showBatch(services, params.id), left };
  });

  // Files do not fit the JSON contract: one comes in as multipart, one goes out as CSV.
  router.post('/api/batches', async (ctx) => {
    const { user } = ctx.state;
    if (!user) throw new Problem(401, 'Sign in first', 'There is no session, or it has ended');
    if (user.role === 'viewer')
      throw new Problem(403, 'Not allowed', 'A viewer looks at everything and changes nothing');
    const id = await readBatch(services, await receiveFile(ctx, config));
    ctx.body = await showBatch(services, id);
  });
  router.get('/api/batches/:id/refused.csv', async (ctx) => {
    if (!ctx.state.user) throw new Problem(401, 'Sign in first', 'There is no session, or it has ended');
    const file = await refusedFile(services, Number(ctx.params.id));
    const line = (cells: string[]) => `${cells.map(csvCell).join(',')}\r\n`;
    ctx.attachment(`${file.name.replace(/\.\w+$/, '')}-refused.csv`);
    ctx.type = 'text/csv; charset=utf-8';
    ctx.body = `\uFEFF${line(['Refused because', 'Row', ...file.columns])}${file.rows.map(({ row, reasons, cells }) => line([(reasons ?? []).join('; '), String(row), ...cells])).join('')}`;
  });
}
