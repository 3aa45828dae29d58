/** Where the channel itself would put goods of one of our categories: it is asked with some of their titles. */
import { keyOf } from '@velvet-shelf/core/values';
import { eq } from 'drizzle-orm';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { Problem, conflict } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { seal } from '../outgoing/seal.js';
import { adapterOf } from './adapters/index.js';
import { getPlace, rulebookOf } from './places.js';
import { accountRow, outside, speak } from './speaking.js';
import { titlesOf } from './suggestions.js';
import { targetsOf } from './tree.js';

const mostPlaced = 4;

/** The likeliest first; categories its rulebook does not have, or does not take goods in, are left out. */
export async function placedByChannel(
  services: Services,
  placeId: number,
  category: string,
): Promise<{ path: string; names: string[] }[]> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const { placing } = adapterOf(place.adapter);
  if (!placing) throw conflict(`${place.channelName} does not say where it would put goods`);
  const rulebook = await rulebookOf(db, place);
  const { attributes } = await loadDictionary(db);
  const titles = (await titlesOf(db, keyOf(attributes, 'title'), place.language)).get(category) ?? [];
  if (titles.length === 0) throw conflict('There are no goods in it that the channel could be asked about');
  const row = await accountRow(db, place.accountId);
  const said = await speak(services, row, (token) =>
    placing(outside(services, row), token, { language: place.language, titles }),
  );
  if (said.credentials)
    await db
      .update(tables.account)
      .set({ credentials: await seal(config, said.credentials) })
      .where(eq(tables.account.id, row.account.id));
  if ('state' in said) throw new Problem(502, 'The channel gave no answer', said.state.fault);
  const known = new Map(targetsOf(rulebook).map((one) => [one.path, one]));
  const found = said.answer.flatMap((path) => {
    const one = known.get(path);
    return one && (one.isLeaf || !rulebook.leafOnly) ? [{ path, names: one.names }] : [];
  });
  return found.slice(0, mostPlaced);
}
