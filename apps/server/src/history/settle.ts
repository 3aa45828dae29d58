/** What was marked in a transaction is evaluated again by a room above this one, which says here how (`rooms.ts`). */
import type { Effect } from '@velvet-shelf/contract';
import type { Executor } from '../db/client.js';
import type { Services } from '../http/route.js';

/** What became of listings, and whether something marked is still to be evaluated. */
export type Settled = Effect & { left: boolean };

interface Settling {
  /** Evaluates what is marked inside the transaction that marked it, until `most` variants are done. */
  here(tx: Executor, address: string, most: number): Promise<Settled>;
  /** The same in a thread, of what is committed. */
  aside(services: Services, most: number): Promise<Settled>;
}

let registered: Settling | undefined;

export function registerSettling(settling: Settling): void {
  registered = settling;
}

function settling(): Settling {
  if (!registered) throw new Error('Nothing is registered that evaluates what was marked');
  return registered;
}

/** Variants evaluated in the transaction of an action, on the request's own thread. */
const mostHere = 100;
/** Those evaluated besides before an answer, in a thread; what goes beyond is brought up beside the requests. */
const mostAside = 400;

export const settleIn = (tx: Executor, address: string): Promise<Settled> => settling().here(tx, address, mostHere);

/** Variants evaluated of an action that is only tried, in a thread. */
const mostTried = 2000;

export const settleTried = (tx: Executor, address: string): Promise<Settled> => settling().here(tx, address, mostTried);

/** What an action's own transaction left, once it is committed. */
export const settleRest = (services: Services): Promise<Settled> => settling().aside(services, mostAside);

/** All that somebody waits for, after a transaction. */
export const settle = (services: Services): Promise<Settled> => settling().aside(services, mostHere + mostAside);
