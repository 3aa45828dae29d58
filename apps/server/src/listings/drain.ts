/** Evaluates what is dirty, round after round. */
import type { Effect } from '@velvet-shelf/contract';
import { sql } from 'drizzle-orm';
import { type PlaceRow, getPlace, listPlaces } from '../channels/places.js';
import { compileFor } from '../channels/setup.js';
import { type Database, type Executor, queryOne, queryRows } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { addEffects, noEffect } from '../history/effect.js';
import { evaluateUnits } from './evaluate.js';
import { type Turn, turns } from './turns.js';

const roundUnits = 200;

/** Rounds that are under way at once: one is evaluated while another is written. */
const roundsAtOnce = 2;

type Settled = Effect & { left: boolean };
type Answer = Awaited<ReturnType<typeof evaluateRound>>;

/** Evaluates dirty families until `most` are done or nothing is dirty, each round in a transaction of its own. */
export async function drain(db: Database, address: string, most: number): Promise<Settled> {
  return inRounds(await listPlaces(db), most, roundsAtOnce, (place, turn) =>
    db.transaction(async (tx) => {
      await turn.mayTake;
      return evaluateRound(tx, { place, address, dictionary: () => loadDictionary(tx), turn });
    }),
  );
}

/** The same inside a transaction, which sees its own changes alone as it goes on. */
export async function drainIn(tx: Executor, address: string, most: number): Promise<Settled> {
  const known = await loadDictionary(tx);
  const dictionary = () => Promise.resolve(known);
  return inRounds(await listPlaces(tx), most, 1, (place, turn) =>
    evaluateRound(tx, { place, address, dictionary, turn }),
  );
}

async function inRounds(
  places: readonly PlaceRow[],
  most: number,
  atOnce: number,
  round: (place: PlaceRow, turn: Turn) => Promise<Answer>,
): Promise<Settled> {
  let effect = noEffect();
  let done = 0;
  let isOver = false;
  const next = turns();
  const work = async (place: PlaceRow) => {
    while (!isOver && done < most) {
      const turn = next();
      const answer = await round(place, turn).finally(turn.hasEnded);
      if (!answer) return;
      done += answer.n;
      effect = addEffects(effect, answer.effect);
    }
  };
  for (const place of places) {
    const workers = Array.from({ length: atOnce }, () => work(place));
    try {
      await Promise.all(workers);
    } catch (error) {
      // The other one ends its round, and begins no more.
      isOver = true;
      await Promise.allSettled(workers);
      throw error;
    }
    if (done >= most) return { ...effect, left: true };
  }
  return { ...effect, left: false };
}

interface Round {
  place: PlaceRow;
  address: string;
  /** As it is once what is dirty was taken. */
  dictionary: () => Promise<Dictionary>;
  turn: Turn;
}

/** Takes some of what is dirty at a place and evaluates it; undefined where nothing is, or all of it is being evaluated. */
async function evaluateRound(tx: Executor, { place, address, dictionary, turn }: Round) {
  const taken = await queryRows<{ unit: number; version: number }>(
    tx,
    // By where rows stand: this table is mostly empty, and believed so when it is not.
    sql`DELETE FROM dirty WHERE ctid = ANY(ARRAY(
          SELECT ctid FROM dirty WHERE place_id = ${place.id} ORDER BY unit_id LIMIT ${roundUnits} FOR UPDATE SKIP LOCKED))
        RETURNING unit_id AS unit, (SELECT setup_version FROM place WHERE id = ${place.id}) AS version`,
  );
  turn.hasTaken();
  const [first] = taken;
  if (!first) return undefined;
  // What was taken is there because something changed: place and dictionary are read as that left them.
  const current = first.version === place.setupVersion ? place : await getPlace(tx, place.id);
  const compiled = await compileFor(tx, current, await dictionary(), address);
  const units = taken.map(({ unit }) => unit);
  return { n: taken.length, effect: await evaluateUnits(tx, compiled, place.id, units, turn.mayWrite) };
}

/** Marks what time alone has changed: sales that began or ended, rulebook dates. */
export async function markDue(on: Executor): Promise<number> {
  const due = await queryOne<{ n: number }>(
    on,
    sql`WITH due AS (
          INSERT INTO dirty (place_id, unit_id) SELECT DISTINCT place_id, unit_id FROM listing WHERE next_change_at <= CURRENT_DATE
          ON CONFLICT DO NOTHING RETURNING 1)
        SELECT count(*) AS n FROM due`,
  );
  return due?.n ?? 0;
}
