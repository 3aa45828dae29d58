/** The one place that writes history: who did what, to which subjects, from what to what. */
import { and, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { type Executor, json } from '../db/client.js';
import { copyLine } from '../db/copy.js';
import * as tables from '../db/schema/index.js';

export type SubjectKind = (typeof tables.subjectKinds)[number];

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

/** An action whose words come when it is done: what it writes may refer to it. */
export const openAction = (on: Executor, actor: number, kind: string): Promise<number> =>
  writeAction(on, { actor, kind, words: '' });

/** Gives it its words and what it changed; without words it did nothing, and is not kept. */
export async function closeAction(
  on: Executor,
  id: number,
  words: string | undefined,
  changes: readonly Change[],
): Promise<void> {
  if (words === undefined) {
    await on.delete(tables.action).where(eq(tables.action.id, id));
    return;
  }
  await on.update(tables.action).set({ words }).where(eq(tables.action.id, id));
  await addChanges(on, id, changes);
}

async function writeAction(on: Executor, { actor, kind, words }: ActionHead): Promise<number> {
  const [made] = await on.insert(tables.action).values({ actor, kind, words }).returning({ id: tables.action.id });
  if (!made) throw new Error(`No action “${kind}” was made`);
  return made.id;
}

/** Of work that goes on as a job, or is done already: with its words from the beginning. */
export async function recordAction(on: Executor, head: ActionHead, changes: readonly Change[]): Promise<number> {
  const id = await writeAction(on, head);
  await addChanges(on, id, changes);
  return id;
}

/** Columns of `change`, and a subject as a line of COPY: for subjects by the thousand. */
export const changeColumns = 'action_id subject_kind subject_id delta';
export const changeLine = (actionId: number, { kind, id, delta }: Change) => copyLine([actionId, kind, id, delta]);

/** Adds subjects to an action that works in chunks; what it does to one twice in a transaction is one change of it. */
export async function addChanges(on: Executor, actionId: number, changes: readonly Change[]): Promise<void> {
  const filled = mergeChanges(changes).filter((change) => Object.keys(change.delta).length > 0);
  if (filled.length === 0) return;
  await on.execute(sql`
    INSERT INTO change (action_id, subject_kind, subject_id, delta)
    SELECT ${actionId}, kind, id, delta FROM jsonb_to_recordset(${json(filled)}) AS t(kind text, id bigint, delta jsonb)
    ON CONFLICT (action_id, subject_kind, subject_id, at) DO UPDATE SET delta = change.delta || (
      SELECT jsonb_object_agg(d.key, CASE WHEN change.delta ? d.key THEN jsonb_build_array(change.delta -> d.key -> 0, d.value -> -1) ELSE d.value END)
      FROM jsonb_each(excluded.delta) d)`);
}

/** What an action changed of subjects of one kind, its fields as `delta` has them: others were written by no action of that kind. */
export async function changesOf<Delta>(
  on: Executor,
  actionId: number,
  kind: SubjectKind,
  delta: z.ZodType<Delta>,
): Promise<{ id: number; delta: Delta }[]> {
  const changes = await on
    .select({ id: tables.change.subjectId, delta: tables.change.delta })
    .from(tables.change)
    .where(and(eq(tables.change.actionId, actionId), eq(tables.change.subjectKind, kind)));
  return changes.map((row) => ({ id: row.id, delta: delta.parse(row.delta) }));
}

/** One change a subject: from what was before the first to what is after the last. */
function mergeChanges(changes: readonly Change[]): Change[] {
  const merged = new Map<string, Change>();
  for (const change of changes) {
    const subject = `${change.kind} ${change.id}`;
    const known = merged.get(subject);
    if (!known) {
      merged.set(subject, change);
      continue;
    }
    const delta = { ...known.delta };
    for (const [field, values] of Object.entries(change.delta))
      delta[field] = field in delta ? [delta[field]?.[0], values.at(-1)] : values;
    merged.set(subject, { ...known, delta });
  }
  return [...merged.values()];
}

/** An action as lists of what was done show it; wants `userAccount` beside `action`. */
export const actionColumns = {
  id: tables.action.id,
  at: tables.action.at,
  actor: tables.userAccount.name,
  kind: tables.action.kind,
  words: tables.action.words,
  undone: sql<boolean>`${tables.action.undoneBy} IS NOT NULL`,
};
