import { type SupplierAnswer, api } from '@velvet-shelf/contract';
import { csvCell, spreadsheetSafe } from '@velvet-shelf/core/tabular';
import { foldCode } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { one, rows } from '../db/client.js';
import { Problem, conflict } from '../http/problem.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { stopEffect } from './effect.js';
import { fixRow, leaveOut, listRows, refusedRows } from './dry-run.js';
import { fetchItem, listPulls, savePull, startPull } from './pull.js';
import { receiveFile } from './receive.js';
import {
  applyTried,
  cancelApplying,
  correctBatch,
  dryRun,
  listBatches,
  readAgain,
  readBatch,
  restartEffect,
  showBatch,
  triedOf,
  undoApplied,
} from './service.js';

export function intakeRoutes(router: AppRouter, services: Services): void {
  const { db, config } = services;
  route(router, api.intake.suppliers, async () => ({
    items: await rows<SupplierAnswer>(
      db,
      sql`SELECT id, key, name, rank, kind, (SELECT count(*) FROM record r WHERE r.supplier_id = s.id AND r.content_id IS NOT NULL) AS records,
            (SELECT count(*) FROM record r WHERE r.supplier_id = s.id AND r.dropped) AS dropped FROM supplier s ORDER BY rank, id`,
    ),
  }));
  route(router, api.intake.addSupplier, async ({ body }) => {
    const made = await one<{ id: number }>(
      db,
      sql`INSERT INTO supplier (key, name, rank, kind, language) SELECT ${foldCode(body.name) || 'supplier'}, ${body.name}, coalesce(max(rank), 0) + 1, 'supplier', ${body.language} FROM supplier
          ON CONFLICT (key) DO NOTHING RETURNING id`,
    );
    if (!made) throw conflict(`There is a supplier named ${body.name} already`);
    return { id: made.id };
  });
  route(router, api.intake.pulls, async () => ({ items: await listPulls(services) }));
  route(router, api.intake.savePull, async ({ body, user }) => ({ id: await savePull(services, user, body) }));
  route(router, api.intake.startPull, async ({ params, user }) => ({
    job: await startPull(services, params.id, user.id),
  }));
  route(router, api.intake.fetchItem, async ({ body }) => ({
    id: await fetchItem(services, body.placeId, body.identifier),
  }));
  route(router, api.intake.batches, ({ query }) => listBatches(services, query.cursor, query.limit));
  route(router, api.intake.batch, ({ params }) => showBatch(services, params.id));
  route(router, api.intake.reading, async ({ params, body }) => {
    await correctBatch(services, params.id, body);
    return showBatch(services, params.id);
  });
  route(router, api.intake.tryOut, async ({ params, user }) => {
    await dryRun(services, params.id, user);
    return showBatch(services, params.id);
  });
  route(router, api.intake.rows, ({ params, query }) => listRows(services, params.id, query));
  route(router, api.intake.leaveOut, async ({ params, body, user }) => {
    await stopEffect(db, params.id);
    const done = await leaveOut(services, params.id, body);
    await restartEffect(services, params.id, user);
    return { rows: done, batch: await showBatch(services, params.id) };
  });
  route(router, api.intake.fix, async ({ params, body, user }) => {
    await stopEffect(db, params.id);
    const row = await fixRow(services, await triedOf(db, params.id), params.row, body.cells);
    await restartEffect(services, params.id, user);
    return { row, batch: await showBatch(services, params.id) };
  });
  route(router, api.intake.again, async ({ params, user }) =>
    showBatch(services, await readAgain(services, params.id, user)),
  );
  route(router, api.intake.cancel, async ({ params }) => {
    await cancelApplying(services, params.id);
    return showBatch(services, params.id);
  });
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
    const file = await refusedRows(services, Number(ctx.params.id));
    const line = (cells: string[]) => `${cells.map((cell) => csvCell(spreadsheetSafe(cell))).join(',')}\r\n`;
    ctx.attachment(`${file.name.replace(/\.\w+$/, '')}-refused.csv`);
    ctx.type = 'text/csv; charset=utf-8';
    ctx.body = `\uFEFF${line(['Refused because', 'Row', ...file.columns])}${file.rows.map(({ place, reasons, cells }) => line([reasons.join('; '), place, ...cells])).join('')}`;
  });
}
