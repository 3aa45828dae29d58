/** The company whose shelf this is: its name, languages, currencies and time zone. Nothing of them is a constant. */
import type { Company } from '@velvet-shelf/contract';
import { type Executor, first } from '../db/client.js';
import { conflict } from '../http/problem.js';
import * as tables from '../db/schema/index.js';

/** With the first of its languages and of its currencies, which are its own. */
export interface OwnCompany extends Company {
  home: string;
  currency: string;
  version: number;
}

/** Undefined where nobody has set the shelf up yet. */
export async function findCompany(on: Executor): Promise<OwnCompany | undefined> {
  const held = await first(on.select().from(tables.company).limit(1));
  const [home] = held?.languages ?? [];
  const [currency] = held?.currencies ?? [];
  if (!held || home === undefined || currency === undefined) return undefined;
  const { name, market, languages, currencies, timeZone, pricesWithVat, manyValues, version } = held;
  return { name, market, languages, currencies, timeZone, pricesWithVat, manyValues, version, home, currency };
}

/** Refuses where nobody has set the shelf up yet. */
export async function loadCompany(on: Executor): Promise<OwnCompany> {
  const held = await findCompany(on);
  if (!held) throw conflict('This shelf has no company yet: an owner makes it first');
  return held;
}
