/** Rates of exchange: what one of a currency is in another, who says so and for which day. */
import type { Effect, RateAnswer } from '@velvet-shelf/contract';
import type { Rate } from '@velvet-shelf/core/values';
import { and, count, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Acting, act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';

interface Pair {
  from: string;
  to: string;
}

const { rate: table, place } = tables;

export const listRates = (on: Executor): Promise<(RateAnswer & { places: number })[]> =>
  on
    .select({
      ...{ from: table.from, to: table.to, rate: table.rate, source: table.source, day: table.day },
      places: count(place.id),
    })
    .from(table)
    .leftJoin(place, eq(place.currency, table.to))
    .groupBy(table.from, table.to)
    .orderBy(table.to, table.from);

/** Into one currency, by the other. */
export async function ratesTo(on: Executor, currency: string): Promise<Map<string, Rate>> {
  const found = await on.select().from(table).where(eq(table.to, currency));
  return new Map(found.map(({ from, rate, source, day }) => [from, { rate, source, day }]));
}

export async function setRate(
  services: Services,
  user: User,
  { from, to, is, was }: Pair & { is: Rate | null; was: string | null },
): Promise<Effect> {
  const { effect } = await act(services, user, { kind: 'rate', tells: ['company', 'channels'] }, async (on) => {
    // Two that say a first rate at once would not meet on a row.
    await on.tx.execute(sql`SELECT 1 FROM company FOR UPDATE`);
    const before = await rateOf(on.tx, { from, to });
    if ((before?.rate ?? null) !== was)
      throw stale('Somebody changed this rate meanwhile: look at it as it is now', { current: before ?? null });
    await writeRate(on, { from, to }, is);
    on.say(
      is ? `One ${from} is ${is.rate} ${to} (${is.source}, ${is.day})` : `Took the rate from ${from} to ${to} away`,
    );
    on.change({
      kind: 'company',
      id: 1,
      delta: {
        rate: [
          { from, to, is: before ?? null },
          { from, to, is },
        ],
      },
    });
  });
  return effect;
}

const isPair = ({ from, to }: Pair) => and(eq(table.from, from), eq(table.to, to));

const rateOf = (on: Executor, pair: Pair): Promise<Rate | undefined> =>
  first(on.select({ rate: table.rate, source: table.source, day: table.day }).from(table).where(isPair(pair)));

/** Writes it, and marks the places that sell in the currency. */
async function writeRate({ tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>, pair: Pair, is: Rate | null) {
  if (is === null) await tx.delete(table).where(isPair(pair));
  else
    await tx
      .insert(table)
      .values({ ...pair, ...is })
      .onConflictDoUpdate({ target: [table.from, table.to], set: is });
  for (const { id } of await tx.select({ id: place.id }).from(place).where(eq(place.currency, pair.to)))
    await dirtyPlace(id, { offered: true });
}

const rateSide = z.object({
  from: z.string(),
  to: z.string(),
  is: z.object({ rate: z.string(), source: z.string(), day: z.string() }).nullable(),
});
const deltaSchema = z.object({ rate: z.tuple([rateSide, rateSide]) });

/** Puts a rate back that is still as it was made. */
export async function undoRate(undoing: Undoing): Promise<Undone> {
  const left: string[] = [];
  for (const { delta } of await changesOf(undoing.tx, undoing.actionId, 'company', deltaSchema)) {
    const [before, after] = delta.rate;
    const now = await rateOf(undoing.tx, after);
    if ((now?.rate ?? null) === (after.is?.rate ?? null)) await writeRate(undoing, before, before.is);
    else left.push(`the rate from ${after.from} to ${after.to}: changed since`);
  }
  return { left };
}
