/** The one place that writes history: who did what, to which subjects, from what to what. */
import { sql } from 'drizzle-orm';
import { type Executor, json, one } from '../db/client.js';

export type SubjectKind = 'product' | 'listing' | 'place' | 'channel' | 'batch' | 'feed' | 'run';

export interface Change {
  kind: SubjectKind;
  id: number;
  /** {field: [before, after]}; a creation gives [after] only. */
  delta: Record<string, unknown[]>;
}

export interface ActionHead {
  actor: number | undefined;
  kind: string;
  words: string;
}

export async function recordAction(on: Executor, head: ActionHead, changes: readonly Change[]): Promise<number> {
  const made = await one<{ id: number }>(
    on,
    sql`INSERT INTO action (actor, kind, words) VALUES (${head.actor ?? null}, ${head.kind}, ${head.words}) RETURNING id`,
  );
  const id = made?.id ?? 0;
  await addChanges(on, id, changes);
  return id;
}

/** Adds subjects to an action that works in chunks. */
export async function addChanges(on: Executor, actionId: number, changes: readonly Change[]): Promise<void> {
  const filled = changes.filter((change) => Object.keys(change.delta).length > 0);
  if (filled.length === 0) return;
  await on.execute(sql`
    INSERT INTO change (action_id, subject_kind, subject_id, delta)
    SELECT ${actionId}, kind, id, delta FROM jsonb_to_recordset(${json(filled)}) AS t(kind text, id bigint, delta jsonb)`);
}
