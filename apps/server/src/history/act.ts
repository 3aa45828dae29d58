/**
 * The one way to act: what a person does is one transaction that keeps what changed, marks what has to be evaluated again,
 * evaluates it, and tells open browsers once it is committed.
 */
import type { Effect } from '@velvet-shelf/contract';
import { type Executor, onTrial } from '../db/client.js';
import type { Services, User } from '../http/route.js';
import { type Touches, markDirty, markPlace } from './dirty.js';
import { addEffects, noEffect } from './effect.js';
import { type Change, closeAction, openAction } from './record.js';
import { type Settled, settle, settleIn, settleRest, settleTried } from './settle.js';

/** What an action does, and how its history comes by it. */
export interface Acting {
  tx: Executor;
  /** The action's number, for rows that refer to it. */
  id: number;
  /** What it did, as a sentence. Where nothing is said, nothing happened, and the history keeps nothing. */
  say(words: string): void;
  change(...changes: readonly Change[]): void;
  /** Families and singles to be evaluated again at every place. */
  dirty(units: readonly number[]): Promise<void>;
  /** A place whose set-up changed; `touches` narrows what is evaluated again. */
  dirtyPlace(placeId: number, touches?: Touches): Promise<void>;
}

export interface ActionKind {
  kind: string;
  /** Topics that open browsers are told; listings are told of wherever something was marked. */
  tells?: readonly string[];
  /** What was marked is evaluated once the transaction has ended: for actions that hold locks others wait for. */
  settlesAfter?: boolean;
}

export interface Acted<T> {
  answer: T;
  effect: Effect;
}

const nothing: Settled = { ...noEffect(), left: false };

interface Done<T> {
  answer: T;
  isMarked: boolean;
}

/** Does `work` in this transaction, and writes its history. */
async function doIn<T>(
  tx: Executor,
  actor: Pick<User, 'id'>,
  kind: string,
  work: (on: Acting) => Promise<T>,
): Promise<Done<T>> {
  const id = await openAction(tx, actor.id, kind);
  const changes: Change[] = [];
  let isMarked = false;
  let words: string | undefined;
  const answer = await work({
    tx,
    id,
    say: (said) => {
      words = said;
    },
    change: (...more) => {
      changes.push(...more);
    },
    dirty: async (units) => {
      isMarked ||= units.length > 0;
      await markDirty(tx, units);
    },
    dirtyPlace: async (placeId, touches) => {
      isMarked = true;
      await markPlace(tx, placeId, touches);
    },
  });
  await closeAction(tx, id, words, changes);
  return { answer, isMarked };
}

/** Does `work` as one action of this person; answers what it answers, and what became of listings. */
export async function act<T>(
  services: Services,
  actor: Pick<User, 'id'>,
  { kind, tells = [], settlesAfter = false }: ActionKind,
  work: (on: Acting) => Promise<T>,
): Promise<Acted<T>> {
  const { db, config, notify } = services;
  const { answer, isMarked, inside } = await db.transaction(async (tx) => {
    const done = await doIn(tx, actor, kind, work);
    return { ...done, inside: done.isMarked && !settlesAfter ? await settleIn(tx, config.address) : nothing };
  });
  const after = isMarked && settlesAfter ? await settle(services) : inside.left ? await settleRest(services) : nothing;
  for (const topic of new Set(isMarked ? [...tells, 'listings'] : tells)) notify(topic);
  return { answer, effect: addEffects(inside, after) };
}

/**
 * Does `work` and takes all of it back: what would become of listings. `left` tells that there were more goods than are tried.
 * For a thread of its own: nothing else is done meanwhile.
 */
export function tryAct(
  { db, config }: Pick<Services, 'db' | 'config'>,
  actor: Pick<User, 'id'>,
  { kind }: ActionKind,
  work: (on: Acting) => Promise<unknown>,
): Promise<Settled> {
  return onTrial(db, async ({ tx }) => {
    const { isMarked } = await doIn(tx, actor, kind, work);
    return isMarked ? settleTried(tx, config.address) : nothing;
  });
}
