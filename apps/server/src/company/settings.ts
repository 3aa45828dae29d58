/** The company whose shelf this is: its name, languages, currencies and time zone. Nothing of them is a constant. */
import type { Company } from '@velvet-shelf/contract';
import type { Executor } from '../db/client.js';
import { company } from '../db/schema/index.js';

/** Throws where nobody has set the shelf up yet. */
export async function loadCompany(on: Executor): Promise<Company> {
  const [held] = await on.select().from(company).limit(1);
  if (!held) throw new Error('This shelf has no company yet: it is set up first');
  const { name, languages, currencies, timeZone } = held;
  return { name, languages, currencies, timeZone };
}

/** The first of a list that is never empty: its own language, its own currency. */
export const own = (list: readonly string[]): string => list[0] ?? '';
