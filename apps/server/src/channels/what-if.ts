/** What if: the same pipeline with a set-up that is not saved, over the listings it touches. */
import { compilePlace } from '@velvet-shelf/core/listings';
import { sql } from 'drizzle-orm';
import type { Dictionary } from '../catalog/dictionary.js';
import { type Executor, rows } from '../db/client.js';
import { loadFamilies } from '../listings/families.js';
import { type Effect, todayText } from '../listings/evaluate.js';
import { type PlaceRow, type SetupChange, loadSetup, mediaAddress } from './setup.js';

export interface Tried extends Effect {
  listings: number;
  /** Blocking causes that would be new, with how many listings they touch. */
  newCauses: Map<string, number>;
}

/** Tries a change of set-up on these families, or on the whole assortment; nothing is written. */
export async function tryChange(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
  change: SetupChange,
  units?: readonly number[],
): Promise<Tried> {
  const compiled = compilePlace(await loadSetup(on, place, dictionary, mediaAddress(address), change));
  const wanted =
    units ??
    (
      await rows<{ unit: number }>(
        on,
        sql`SELECT DISTINCT unit_id AS unit FROM listing WHERE place_id = ${place.id} ORDER BY 1`,
      )
    ).map((one) => one.unit);
  const current = await rows<{ variant: number; readiness: string; collective: boolean; causes: string[] | null }>(
    on,
    sql`SELECT l.variant_id AS variant, l.readiness, l.collective @> '[{"severity":"blocker"}]' AS collective,
          (SELECT array_agg(c.key) FROM cause_set s, unnest(s.causes) x JOIN cause c ON c.id = x WHERE s.id = l.cause_set_id) AS causes
        FROM listing l WHERE l.place_id = ${place.id}`,
  );
  const before = new Map(current.map((one) => [one.variant, one]));
  const tried: Tried = { listings: 0, listingsChanged: 0, becameReady: 0, becameBlocked: 0, newCauses: new Map() };
  for (let from = 0; from < wanted.length; from += 500) {
    for (const family of await loadFamilies(on, place.id, wanted.slice(from, from + 500))) {
      for (const result of compiled.evaluate(family, todayText())) {
        if (result.standing === 'left') continue;
        const was = before.get(result.variant);
        const readiness = result.readiness === 'ready' && was?.collective ? 'blocked' : result.readiness;
        tried.listings++;
        if (was && was.readiness !== readiness) {
          tried.listingsChanged++;
          if (readiness === 'ready') tried.becameReady++;
          if (readiness === 'blocked') tried.becameBlocked++;
        }
        const known = new Set(was?.causes ?? []);
        const fresh = new Set(
          result.findings.flatMap((one) => (one.severity === 'blocker' && !known.has(one.cause) ? [one.cause] : [])),
        );
        for (const cause of fresh) tried.newCauses.set(cause, (tried.newCauses.get(cause) ?? 0) + 1);
      }
    }
  }
  return tried;
}
