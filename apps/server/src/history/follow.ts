/** Goods follow the company and the dictionary: a room above, which says here how (`rooms.ts`), resolves them anew by a job. */
import type { Executor } from '../db/client.js';

/** Makes the job in the transaction of what it follows; answers its number, or null where there are no goods. */
export type Resolving = (on: Executor, label: string, action: number) => Promise<number | null>;

let registered: Resolving | undefined;

export function registerResolving(resolving: Resolving): void {
  registered = resolving;
}

export const resolveAnew: Resolving = (on, label, action) => {
  if (!registered) throw new Error('Nothing is registered that resolves goods anew');
  return registered(on, label, action);
};
