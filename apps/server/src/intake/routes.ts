import { type SupplierAnswer, api } from '@velvet-shelf/contract';
import { csvCell, spreadsheetSafe } from '@velvet-shelf/core/tabular';
import { foldCode } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { one, rows } from '../db/client.js';
import { conflict } from '../http/problem.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { correctApart, readApart, showApart } from './calls.js';
import { stopEffect } from './effect.js';
import { fixRow, leaveOut, listRows, refusedRows } from './dry-run.js';
import { cancelPull, fetchItem, listPulls, removePull, savePull, startPull } from './pull.js';
import { receiveFile } from './receive.js';
import {
  applyTried,
  cancelApplying,
  dryRun,
  listBatches,
  readAgain,
  restartEffect,
  triedOf,
  undoApplied,
} from './service.js';

export function intakeRoutes(router: AppRouter, services: Services): void {
  const { db, config } = services;
  route(router, services, api.intake.suppliers, async () => ({
    items: await rows<SupplierAnswer>(
      db,
      sql`SELECT s.id, s.key, s.name, s.rank, s.kind, coalesce(n.records, 0)::int AS records, coalesce(n.dropped, 0)::int AS dropped
          FROM supplier s LEFT JOIN (
            SELECT supplier_id, count(*) AS records, count(*) FILTER (WHERE dropped) AS dropped FROM record WHERE content_id IS NOT NULL GROUP BY 1) n
          ON n.supplier_id = s.id ORDER BY s.rank, s.id`,
    ),
  }));
  route(router, services, api.intake.addSupplier, async ({ body }) => {
    const made = await one<{ id: number }>(
      db,
      sql`INSERT INTO supplier (key, name, rank, kind, language) SELECT ${foldCode(body.name) || 'supplier'}, ${body.name}, coalesce(max(rank), 0) + 1, 'supplier', ${body.language} FROM supplier
          ON CONFLICT (key) DO NOTHING RETURNING id`,
    );
    if (!made) throw conflict(`There is a supplier named ${body.name} already`);
    return { id: made.id };
  });
  route(router, services, api.intake.pulls, async () => ({ items: await listPulls(services) }));
  route(router, services, api.intake.savePull, async ({ body, user }) => ({
    id: await savePull(services, user, body),
  }));
  route(router, services, api.intake.startPull, async ({ params, user }) => ({
    job: await startPull(services, params.id, user.id),
  }));
  route(router, services, api.intake.cancelPull, async ({ params }) => {
    await cancelPull(services, params.id);
    return { items: await listPulls(services) };
  });
  route(router, services, api.intake.removePull, async ({ params, user }) => {
    await removePull(services, user, params.id);
    return { items: await listPulls(services) };
  });
  route(router, services, api.intake.fetchItem, async ({ body }) => ({
    id: await fetchItem(services, body.placeId, body.identifier),
  }));
  route(router, services, api.intake.batches, ({ query }) => listBatches(services, query.cursor, query.limit));
  route(router, services, api.intake.batch, ({ params }) => showApart(services, params.id));
  route(router, services, api.intake.reading, async ({ params, body }) => {
    await correctApart(services, params.id, body);
    return showApart(services, params.id);
  });
  route(router, services, api.intake.tryOut, async ({ params, user }) => {
    await dryRun(services, params.id, user);
    return showApart(services, params.id);
  });
  route(router, services, api.intake.rows, ({ params, query }) => listRows(services, params.id, query));
  route(router, services, api.intake.leaveOut, async ({ params, body, user }) => {
    await stopEffect(db, params.id);
    const done = await leaveOut(services, params.id, body);
    await restartEffect(services, params.id, user);
    return { rows: done, batch: await showApart(services, params.id) };
  });
  route(router, services, api.intake.fix, async ({ params, body, user }) => {
    await stopEffect(db, params.id);
    const row = await fixRow(services, await triedOf(db, params.id), params.row, body.cells);
    await restartEffect(services, params.id, user);
    return { row, batch: await showApart(services, params.id) };
  });
  route(router, services, api.intake.again, async ({ params, user }) =>
    showApart(services, await readAgain(services, params.id, user)),
  );
  route(router, services, api.intake.cancel, async ({ params }) => {
    await cancelApplying(services, params.id);
    return showApart(services, params.id);
  });
  route(router, services, api.intake.apply, async ({ params, user }) => {
    await applyTried(services, params.id, user);
    return showApart(services, params.id);
  });
  route(router, services, api.intake.undo, async ({ params, user }) => {
    const left = await undoApplied(services, params.id, user);
    return { batch: await showApart(services, params.id), left };
  });

  route(router, services, api.intake.upload, async ({ ctx }) => {
    const file = await receiveFile(ctx, config);
    return showApart(services, await readApart(services, file));
  });
  route(router, services, api.intake.refused, async ({ ctx, params }) => {
    const file = await refusedRows(services, params.id);
    const line = (cells: string[]) => `${cells.map((cell) => csvCell(spreadsheetSafe(cell))).join(',')}\r\n`;
    ctx.attachment(`${file.name.replace(/\.\w+$/, '')}-refused.csv`);
    ctx.type = 'text/csv; charset=utf-8';
    ctx.body = `\uFEFF${line(['Refused because', 'Row', ...file.columns])}${file.rows.map(({ place, reasons, cells }) => line([reasons.join('; '), place, ...cells])).join('')}`;
    return undefined;
  });
}
