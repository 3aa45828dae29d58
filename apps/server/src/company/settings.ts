/** The company whose shelf this is: its name, languages, currencies and time zone. Nothing of them is a constant. */
import type { Company } from '@velvet-shelf/contract';
import type { Executor } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** With the first of its languages and of its currencies, which are its own. */
export interface OwnCompany extends Company {
  home: string;
  currency: string;
}

/** Throws where nobody has set the shelf up yet. */
export async function loadCompany(on: Executor): Promise<OwnCompany> {
  const [held] = await on.select().from(tables.company).limit(1);
  const [home] = held?.languages ?? [];
  const [currency] = held?.currencies ?? [];
  if (!held || home === undefined || currency === undefined)
    throw new Error('This shelf has no company yet: it is set up first');
  const { name, languages, currencies, timeZone } = held;
  return { name, languages, currencies, timeZone, home, currency };
}
