/** Taking back: each kind of action says how that is done, and is registered by the rooms it belongs to (`rooms.ts`). */
import { eq, and, isNull } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { act } from './act.js';
import type { Touches } from './dirty.js';
import type { Change } from './record.js';
import * as tables from '../db/schema/index.js';

/** What is to be taken back, and as part of which action. */
export interface Undoing {
  tx: Executor;
  actionId: number;
  /** The action that takes it back. */
  by: number;
  actor: number;
  /** Families and singles to be evaluated again. */
  dirty(units: readonly number[]): Promise<void>;
  dirtyPlace(placeId: number, touches?: Touches): Promise<void>;
}

export interface Undone {
  /** What was left, because somebody changed it since, as sentences. */
  left: string[];
  /** What else changed, for the history. */
  changes?: Change[];
}

/** One room's part in taking a kind of action back. */
export type Undo = (undoing: Undoing) => Promise<Undone>;

/** Taken back by a job of its own, because it may be long; answers as an undo does. */
export type LongUndo = (services: Services, user: User, actionId: number) => Promise<{ words: string; left: string[] }>;

const undos = new Map<string, readonly Undo[]>();
const longUndos = new Map<string, LongUndo>();

/** Its parts are done in this order, in one transaction. */
export function registerUndo(kind: string, ...parts: readonly Undo[]): void {
  undos.set(kind, parts);
}

export function registerLongUndo(kind: string, undo: LongUndo): void {
  longUndos.set(kind, undo);
}

export const canUndo = (kind: string): boolean => longUndos.has(kind) || undos.has(kind);

/** Undoes one action, once however many ask; what somebody changed since is left, and named. */
export async function undoAction(
  services: Services,
  user: User,
  id: number,
): Promise<{ words: string; left: string[] }> {
  const [held] = await services.db
    .select({ kind: tables.action.kind })
    .from(tables.action)
    .where(eq(tables.action.id, id));
  if (!held) throw notFound(`action ${id}`);
  const long = longUndos.get(held.kind);
  if (long) return long(services, user, id);
  const parts = undos.get(held.kind);
  if (!parts) throw conflict('This cannot be undone by itself');
  const { answer } = await act(services, user, { kind: 'undo', tells: ['catalog', 'matches'] }, async (on) => {
    const words = `Undid: ${await claim(on.tx, id, on.id)}`;
    const left: string[] = [];
    for (const part of parts) {
      const done = await part({ ...on, actionId: id, by: on.id, actor: user.id });
      left.push(...done.left);
      on.change(...(done.changes ?? []));
    }
    on.say(words);
    return { words, left };
  });
  return answer;
}

/** Whoever claims it first takes it back; the others wait here and are told. */
async function claim(tx: Executor, id: number, by: number): Promise<string> {
  const claimed = await first(
    tx
      .update(tables.action)
      .set({ undoneBy: by })
      .where(and(eq(tables.action.id, id), isNull(tables.action.undoneBy)))
      .returning({ words: tables.action.words }),
  );
  if (!claimed) throw conflict('This is undone already');
  return claimed.words;
}
