/** A rulebook read in the application, field by field, and its small things said anew as a further version. */
import type { AskedFieldAnswer } from '@velvet-shelf/contract';
import { sayLimits } from '@velvet-shelf/core/checks';
import {
  type AttributeChange,
  askedFields,
  limitsOf,
  namesOf,
  numberLimits,
  withChanges,
} from '@velvet-shelf/core/rulebooks';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { getPlace } from './places.js';
import { addRulebook, mustHave, versionOf } from './rulebooks.js';

/** What a version asks for, of all goods or of those in one category of the channel’s. */
export async function readFields(
  { db }: Services,
  { placeId, rulebookId }: { placeId: number; rulebookId: number },
  category: string | undefined,
): Promise<AskedFieldAnswer[]> {
  const place = await getPlace(db, placeId);
  const rulebook = await versionOf(db, place, rulebookId);
  mustHave(rulebook, category);
  const names = namesOf(rulebook);
  return askedFields(rulebook, category, place.market).map(({ attribute, elsewhere }) => {
    const { key, label, help = null, type, need, limits, requiredWhen, categories } = attribute;
    const settable = limitsOf(attribute);
    return {
      ...{ key, label, help, type, need },
      many: attribute.many === true,
      says: [...sayLimits(attribute, rulebook), ...(requiredWhen ? ['required of some goods'] : [])],
      limits: Object.fromEntries(
        numberLimits.flatMap((limit) => (settable.includes(limit) ? [[limit, limits[limit] ?? null]] : [])),
      ),
      values: limits.values ?? null,
      only: (categories ?? []).map((path) => names(path).join(' / ')),
      elsewhere: elsewhere.map((path) => names(path).join(' / ')),
    };
  });
}

/** Makes a further version in which these things are otherwise; it is not in use until somebody takes it. */
export async function changeFields(
  services: Services,
  user: User,
  { placeId, rulebookId }: { placeId: number; rulebookId: number },
  given: { version: string; validFrom: string; changes: readonly AttributeChange[] },
): Promise<{ version: string }> {
  const place = await getPlace(services.db, placeId);
  const changed = withChanges(await versionOf(services.db, place, rulebookId), given);
  if (!changed.ok)
    throw badRequest(
      `This cannot be changed: ${changed.faults.slice(0, 5).join('; ')}`,
      changed.faults.map((detail) => ({ pointer: '/body/changes', detail })),
    );
  return addRulebook(services, user, placeId, changed.rulebook);
}
