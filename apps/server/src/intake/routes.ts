import { api } from '@velvet-shelf/contract';
import { csvCell, spreadsheetSafe } from '@velvet-shelf/core/tabular';
import { type AppRouter, type Services, route } from '../http/route.js';
import { triedOf } from './batches.js';
import { apart } from '../jobs/aside.js';
import { changeMakes } from './columns/makes.js';
import { makeByHand } from './hand/make.js';
import { discardBatch } from './discard.js';
import { correctFile, lookAt, readFile } from './jobs.js';
import { fixRow, leaveOut, listRows, refusedRows } from './try/dry-run.js';
import { fetchItem } from './pull/item.js';
import { mergeSuppliers } from './suppliers/merge.js';
import { goesWith, removeGoods } from './remove.js';
import { cancelPull, listPulls, removePull, savePull, startPull } from './pull/pull.js';
import { receiveFile } from '../http/receive.js';
import { applyTried, cancelApplying, dryRun, readAgain, restartEffect, undoApplied } from './service.js';
import { listBatches } from './show.js';

export function intakeRoutes(router: AppRouter, services: Services): void {
  const { db, config } = services;
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
  route(router, services, api.intake.batch, ({ params, locale }) => apart(lookAt, services, { id: params.id, locale }));
  route(router, services, api.intake.make, async ({ params, body, locale }) => {
    await changeMakes(services, params.id, body);
    return apart(lookAt, services, { id: params.id, locale });
  });
  route(router, services, api.intake.reading, async ({ params, body, locale }) => {
    await apart(correctFile, services, { id: params.id, change: body });
    return apart(lookAt, services, { id: params.id, locale });
  });
  route(router, services, api.intake.tryOut, async ({ params, user, locale }) => {
    await dryRun(services, params.id, user);
    return apart(lookAt, services, { id: params.id, locale });
  });
  route(router, services, api.intake.rows, ({ params, query, locale }) =>
    listRows(services, params.id, { ...query, locale }),
  );
  route(router, services, api.intake.leaveOut, async ({ params, body, user, locale }) => {
    const done = await leaveOut(services, params.id, body);
    await restartEffect(services, params.id, user);
    return { rows: done, batch: await apart(lookAt, services, { id: params.id, locale }) };
  });
  route(router, services, api.intake.fix, async ({ params, body, user, locale }) => {
    const row = await fixRow(services, await triedOf(db, params.id), params.row, { cells: body.cells, locale });
    await restartEffect(services, params.id, user);
    return { row, batch: await apart(lookAt, services, { id: params.id, locale }) };
  });
  route(router, services, api.intake.again, async ({ params, user, locale }) =>
    apart(lookAt, services, { id: await readAgain(services, params.id, user), locale }),
  );
  route(router, services, api.intake.cancel, async ({ params, locale }) => {
    await cancelApplying(services, params.id);
    return apart(lookAt, services, { id: params.id, locale });
  });
  route(router, services, api.intake.apply, async ({ params, user, locale }) => {
    await applyTried(services, params.id, user);
    return apart(lookAt, services, { id: params.id, locale });
  });
  route(router, services, api.intake.undo, async ({ params, user, locale }) => {
    const left = await undoApplied(services, params.id, user);
    return { batch: await apart(lookAt, services, { id: params.id, locale }), left };
  });

  route(router, services, api.intake.discard, async ({ params, user }) => {
    await discardBatch(services, user, params.id);
    return {};
  });
  route(router, services, api.byHand.make, ({ user, body }) => makeByHand(services, user, body));
  route(router, services, api.company.mergeSupplier, async ({ params, body, user }) => ({
    job: await mergeSuppliers(services, user, params.id, body.into),
  }));
  route(router, services, api.byHand.goesWith, ({ params }) => goesWith(db, params.id));
  route(router, services, api.byHand.remove, async ({ params, user }) => {
    await removeGoods(services, user, params.id);
    return {};
  });
  route(router, services, api.intake.upload, async ({ ctx, locale }) => {
    const file = await receiveFile(ctx, config, 'intake');
    return apart(lookAt, services, { id: await apart(readFile, services, { file }), locale });
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
