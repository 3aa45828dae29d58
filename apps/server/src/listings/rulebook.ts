/** What another rulebook would do to the listings of a place, before it is taken. */
import { sayCause } from '@velvet-shelf/core/causes';
import { loadDictionary } from '../dictionary/dictionary.js';
import { getPlace } from '../channels/places.js';
import { versionOf } from '../channels/rulebooks.js';
import type { Services } from '../http/route.js';
import { tryChange } from './what-if.js';

export async function tryRulebook({ db, config }: Services, placeId: number, rulebookId: number) {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const rulebook = await versionOf(db, place, rulebookId);
  const { effect, listings, newCauses } = await tryChange(db, place, dictionary, config.address, { rulebook });
  const causes = [...newCauses]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 20)
    .map(([key, touched]) => ({
      words: sayCause(key, dictionary.attributes, [rulebook], place.channelName, dictionary.home),
      listings: touched,
    }));
  return { ...effect, listings, causes };
}
