/** Job: what follows for goods whose records another supplier tells now. Twice is as once. */
import { loadDictionary } from '../../dictionary/dictionary.js';
import { markDirty } from '../../history/dirty.js';
import { changesOf } from '../../history/record.js';
import { settle } from '../../history/settle.js';
import type { JobContext } from '../../jobs/define.js';
import { settleJoins } from '../../matching/decide.js';
import { lockJoins, refreshKeys } from '../../matching/joins.js';
import { settleRecords } from '../apply/settle.js';
import type { SettleInput } from '../jobs.js';
import { movedDelta } from './merge.js';

const atOnce = 1000;

export async function settleSupplier({
  db,
  services,
  input,
  progress,
  finish,
}: JobContext<SettleInput>): Promise<void> {
  const moved = await changesOf(db, input.action, 'record', movedDelta);
  const records = [
    ...new Set(moved.flatMap(({ id, delta }) => [id, ...(delta.twin ?? []).flatMap((twin) => twin ?? [])])),
  ];
  for (let done = 0; done < records.length; done += atOnce) {
    await progress(done, records.length);
    await db.transaction(async (tx) => {
      await lockJoins(tx);
      const part = records.slice(done, done + atOnce);
      const dictionary = await loadDictionary(tx);
      await settleRecords(tx, part, { actionId: input.action, batchId: undefined, dictionary });
      await refreshKeys(tx, part);
      const dirty = (units: readonly number[]) => markDirty(tx, units);
      await settleJoins({ tx, dirty }, part, input.action);
    });
  }
  await db.transaction((tx) => finish(tx));
  await settle(services);
  services.notify('catalog');
}
