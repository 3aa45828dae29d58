/** What was marked in a transaction is evaluated again by a room above this one, which says here how (`rooms.ts`). */
import type { Effect } from '@velvet-shelf/contract';
import type { Database, Executor } from '../db/client.js';

/** Evaluates what is marked until `most` variants are done; the rest follows by itself. */
export type Settle = (on: Database | Executor, address: string, most: number) => Promise<Effect>;

let registered: Settle | undefined;

export function registerSettling(settle: Settle): void {
  registered = settle;
}

/** Variants evaluated before an answer; what goes beyond is brought up beside the requests. */
const mostBeforeAnswer = 500;

export function settle(on: Database | Executor, address: string): Promise<Effect> {
  if (!registered) throw new Error('Nothing is registered that evaluates what was marked');
  return registered(on, address, mostBeforeAnswer);
}
