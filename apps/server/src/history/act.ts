/**
 * The one way to act: what a person does is one transaction that keeps what changed, marks what has to be evaluated again,
 * evaluates it, and tells open browsers once it is committed.
 */
import type { Effect } from '@velvet-shelf/contract';
import type { Executor } from '../db/client.js';
import type { Services, User } from '../http/route.js';
import { type Touches, markDirty, markPlace } from './dirty.js';
import { addEffects, noEffect } from './effect.js';
import { type Change, closeAction, openAction } from './record.js';
import { type Settled, settle, settleIn, settleRest } from './settle.js';

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

/** Does `work` as one action of this person; answers what it answers, and what became of listings. */
export async function act<T>(
  services: Services,
  actor: Pick<User, 'id'>,
  { kind, tells = [], settlesAfter = false }: ActionKind,
  work: (on: Acting) => Promise<T>,
): Promise<Acted<T>> {
  const { db, config, notify } = services;
  let isMarked = false;
  const { answer, inside } = await db.transaction(async (tx) => {
    const id = await openAction(tx, actor.id, kind);
    const changes: Change[] = [];
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
    return { answer, inside: isMarked && !settlesAfter ? await settleIn(tx, config.address) : nothing };
  });
  const after = isMarked && settlesAfter ? await settle(services) : inside.left ? await settleRest(services) : nothing;
  for (const topic of new Set(isMarked ? [...tells, 'listings'] : tells)) notify(topic);
  return { answer, effect: addEffects(inside, after) };
}
