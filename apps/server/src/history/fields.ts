/** Rows that people keep, such as suppliers and attributes: changed field by field against what somebody saw, and taken back. */
import { canonical } from '@velvet-shelf/core/values';
import { z } from 'zod';
import type { Executor } from '../db/client.js';
import { stale } from '../http/problem.js';
import { type SubjectKind, changesOf } from './record.js';

/** {field: [before, after]}; of what is new `created`. */
const fieldsDelta = z.record(z.string(), z.array(z.unknown()));
export type FieldsDelta = z.infer<typeof fieldsDelta>;

type Fields = Readonly<Record<string, unknown>>;

/** What a change makes of a row; refuses it where a field it changes is not as it was when somebody looked at it. */
export function deltaOfFields(held: Fields, to: Fields, was: Fields): FieldsDelta {
  const delta: FieldsDelta = {};
  for (const [field, after] of Object.entries(to)) {
    if (after === undefined || canonical(held[field]) === canonical(after)) continue;
    if (canonical(held[field]) !== canonical(was[field]))
      throw stale(`Somebody changed this meanwhile: look at it as it is now`, {
        field,
        current: held[field] ?? null,
        yours: after,
      });
    delta[field] = [held[field] ?? null, after];
  }
  return delta;
}

/** “Put the supplier Lumenloam away”, “Changed the supplier Lumenloam”. */
export const sayKept = (what: string, { putAway }: { putAway?: boolean | undefined }): string =>
  putAway === undefined ? `Changed ${what}` : putAway ? `Put ${what} away` : `Took ${what} back`;

/** What an action made, and what it changed of rows, as it was and as it left them. */
export async function fieldsOfAction(
  on: Executor,
  actionId: number,
  kind: SubjectKind,
): Promise<{ created: number[]; changed: { id: number; delta: FieldsDelta }[] }> {
  const changes = await changesOf(on, actionId, kind, fieldsDelta);
  return {
    created: changes.flatMap(({ id, delta }) => (delta.created ? [id] : [])),
    changed: changes.filter(({ delta }) => !delta.created),
  };
}

/** How rows of one kind are taken back. */
interface Keeping<Row> {
  load(id: number): Promise<Row | undefined>;
  say(row: Row): string;
  /** Why a row that was made stays, where it does; the others are removed. */
  stays(row: Row): Promise<string | undefined>;
  remove(ids: number[]): Promise<unknown>;
  /** Sets fields back; or says why they stay. */
  set(row: Row, to: Record<string, unknown>): Promise<unknown>;
}

/** Takes back rows that an action made, where nothing has come to use them, and fields that are still as it set them. */
export async function takeRowsBack<Row extends object>(
  { tx, actionId }: { tx: Executor; actionId: number },
  kind: SubjectKind,
  { load, say, stays, remove, set }: Keeping<Row>,
): Promise<{ left: string[]; fields: Set<string> }> {
  const { created, changed } = await fieldsOfAction(tx, actionId, kind);
  const left: string[] = [];
  const fields = new Set<string>();
  const gone: number[] = [];
  // What was made may stay only because of what was changed with it.
  for (const { id, delta } of changed) {
    const row = await load(id);
    if (!row) continue;
    const to: Record<string, unknown> = {};
    for (const [field, [before, after]] of Object.entries(delta))
      if (canonical((row as Fields)[field]) === canonical(after)) to[field] = before;
      else left.push(`${field} of ${say(row)}: changed since`);
    if (Object.keys(to).length === 0) continue;
    const why = await set(row, to);
    if (typeof why === 'string') left.push(why);
    else for (const field of Object.keys(to)) fields.add(field);
  }
  for (const id of created) {
    const row = await load(id);
    const why = row && (await stays(row));
    if (why !== undefined) left.push(why);
    else if (row) gone.push(id);
  }
  if (gone.length > 0) await remove(gone);
  return { left, fields };
}
