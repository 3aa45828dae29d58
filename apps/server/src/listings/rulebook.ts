/** What another rulebook would do to the listings of a place, before it is taken. */
import { sayCause } from '@velvet-shelf/core/causes';
import { eq, and } from 'drizzle-orm';
import { loadDictionary } from '../dictionary/dictionary.js';
import { getPlace } from '../channels/places.js';
import { first } from '../db/client.js';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { tryChange } from './what-if.js';
import * as tables from '../db/schema/index.js';

export async function tryRulebook({ db, config }: Services, placeId: number, rulebookId: number) {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const rulebook = await first(
    db
      .select({ body: tables.rulebook.body })
      .from(tables.rulebook)
      .where(and(eq(tables.rulebook.id, rulebookId), eq(tables.rulebook.channelId, place.channelId))),
  );
  if (!rulebook) throw notFound(`rulebook ${rulebookId} of ${place.channelName}`);
  const { effect, listings, newCauses } = await tryChange(db, place, dictionary, config.address, {
    rulebook: rulebook.body,
  });
  const causes = [...newCauses]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 20)
    .map(([key, touched]) => ({
      words: sayCause(key, dictionary.attributes, [rulebook.body], place.channelName, dictionary.home),
      listings: touched,
    }));
  return { ...effect, listings, causes };
}
