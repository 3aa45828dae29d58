/** What another rulebook would do to the listings of its channel, before it is taken. */
import { sayCause } from '@velvet-shelf/core/causes';
import { loadDictionary } from '../dictionary/dictionary.js';
import { getPlace } from '../channels/places.js';
import { versionOf } from '../channels/rulebooks.js';
import type { Services } from '../http/route.js';
import { tryEverywhere } from './what-if.js';

/** Causes that are told. */
const mostCauses = 20;

export async function tryRulebook({ db, config }: Services, placeId: number, rulebookId: number) {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const rulebook = await versionOf(db, place, rulebookId);
  const { effect, listings, newCauses } = await tryEverywhere(db, place, dictionary, config.address, { rulebook });
  // What is said alike of several markets is told once.
  const byWords = new Map<string, number>();
  for (const [key, touched] of newCauses) {
    const words = sayCause(key, dictionary.attributes, [rulebook], place.channelName, dictionary.home);
    byWords.set(words, (byWords.get(words) ?? 0) + touched);
  }
  const causes = [...byWords]
    .sort((a, b) => b[1] - a[1])
    .slice(0, mostCauses)
    .map(([words, touched]) => ({ words, listings: touched }));
  return { ...effect, listings, causes };
}
