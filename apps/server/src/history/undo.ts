/** What can be taken back: each kind of action says how, and is registered by the room it belongs to (`rooms.ts`). */
import type { Executor } from '../db/client.js';
import type { Change } from './record.js';

/** What is to be taken back, and as part of which action. */
export interface Undoing {
  tx: Executor;
  actionId: number;
  /** The action that takes it back. */
  by: number;
  actor: number;
}

export interface Undone {
  /** What was left, because somebody changed it since, as sentences. */
  left: string[];
  /** What else changed, for the history. */
  changes?: Change[];
}

export type Undo = (undoing: Undoing) => Promise<Undone>;

const undos = new Map<string, Undo>();

export function registerUndo(kind: string, undo: Undo): void {
  undos.set(kind, undo);
}

/** How an action of this kind is taken back; undefined where it is not, or not by itself. */
export const undoOf = (kind: string): Undo | undefined => undos.get(kind);

/** Taken back by a job of its own, because it may be long. */
export const batchKind = 'apply-batch';

export const canUndo = (kind: string): boolean => kind === batchKind || undos.has(kind);
