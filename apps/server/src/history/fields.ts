/** Changes of rows field by field: made against what somebody saw, kept, and taken back where nobody has changed the field since. */
import { canonical } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { stale } from '../http/problem.js';

/** {field: [before, after]}; of what is new `created`. */
export const fieldsDelta = z.record(z.string(), z.array(z.unknown()));
export type FieldsDelta = z.infer<typeof fieldsDelta>;

type Row = Readonly<Record<string, unknown>>;

/** What a change makes of a row; refuses it where a field it changes is not as it was when somebody looked at it. */
export function deltaOfFields(held: Row, to: Row, was: Row): FieldsDelta {
  const delta: FieldsDelta = {};
  for (const [field, after] of Object.entries(to)) {
    if (after === undefined || canonical(held[field]) === canonical(after)) continue;
    if (canonical(held[field]) !== canonical(was[field]))
      throw stale(`Somebody changed this meanwhile: look at it as it is now`, {
        field,
        current: held[field] ?? null,
        yours: after,
      });
    delta[field] = [held[field] ?? null, after];
  }
  return delta;
}

/** What to set to take a change back, and the fields that somebody has changed since. */
export function fieldsBack(held: Row, delta: FieldsDelta): { to: Record<string, unknown>; left: string[] } {
  const to: Record<string, unknown> = {};
  const left: string[] = [];
  for (const [field, [before, after]] of Object.entries(delta))
    if (canonical(held[field]) === canonical(after)) to[field] = before;
    else left.push(field);
  return { to, left };
}
