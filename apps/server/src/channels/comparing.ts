/** Conditions of set-up compare attributes that there are, or the stock. */
import { type Condition, conditionAttributes } from '@velvet-shelf/core/conditions';
import { comparables } from '@velvet-shelf/core/listings';
import type { Attribute } from '@velvet-shelf/core/values';
import { badRequest } from '../http/problem.js';

/** A condition where it stands in what was sent. */
export interface Sent {
  condition: Condition;
  /** A JSON Pointer. */
  pointer: string;
}

/** Refuses conditions over attributes there are none of, and says which and where. */
export function mustKnow(attributes: ReadonlyMap<string, Attribute>, sent: readonly Sent[]): void {
  const known = comparables(attributes);
  const errors = sent.flatMap(({ condition, pointer }) => {
    const unknown = conditionAttributes(condition).find((key) => !known.has(key));
    return unknown === undefined
      ? []
      : [{ pointer, detail: `A condition compares “${unknown}”, which is no attribute` }];
  });
  const [first] = errors;
  if (first) throw badRequest(first.detail, errors);
}
