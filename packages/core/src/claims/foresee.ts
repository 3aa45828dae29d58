/** What goods would hold out if a record said something else: the fields that change, and those that stay though it does. */
import { type Attribute, type Value, agree, sameValue } from '../values/index.js';
import { type Trust, nameOfAuthor } from './resolve.js';
import { type Slots, type SourceRecord, type UnitClaims, resolveUnit, splitSlot } from './unit.js';

export interface SlotChange {
  /** Attribute key, or "key@language". */
  slot: string;
  before: Value | undefined;
  after: Value | undefined;
}

/** The record says one thing, the goods go on saying another. */
export interface SlotStay {
  slot: string;
  says: Value;
  keeps: Value | undefined;
  /** Why the other claim counts, in words. */
  why: string;
  /** Who makes it: a source, or the person who edited it. */
  by: string;
}

export interface Foreseen {
  changes: SlotChange[];
  stays: SlotStay[];
}

/** Lays `record` over what is claimed of a variant; a record of the same id is replaced by it. */
export function foreseeRecord(
  unit: UnitClaims,
  variant: number,
  record: SourceRecord,
  dictionary: ReadonlyMap<string, Attribute>,
  policies: ReadonlyMap<string, Trust>,
): Foreseen {
  const before = slotsOf(unit, variant, undefined, dictionary, policies);
  const after = slotsOf(unit, variant, record, dictionary, policies);
  const changes = [...new Set([...after.keys(), ...before.keys()])].flatMap((slot): SlotChange[] => {
    const [was, is] = [before.get(slot)?.value, after.get(slot)?.value];
    return sameValue(was, is) ? [] : [{ slot, before: was, after: is }];
  });
  const stays = Object.entries(record.values).flatMap(([slot, says]): SlotStay[] => {
    const attribute = dictionary.get(splitSlot(slot)[0]);
    const held = after.get(slot);
    if (!attribute || !held || held.origin.from === 'computed') return [];
    if (held.origin.from === 'record' && held.origin.record === record.id) return [];
    if (held.value !== undefined && agree(says, held.value, attribute)) return [];
    const by = nameOfAuthor(held.origin);
    return [{ slot, says, keeps: held.value, why: held.why, by }];
  });
  return { changes, stays };
}

/** One variant's slots. Of its siblings only what they say of the family counts, so they stand together as one. */
function slotsOf(
  { familyEdits, variants }: UnitClaims,
  variant: number,
  record: SourceRecord | undefined,
  dictionary: ReadonlyMap<string, Attribute>,
  policies: ReadonlyMap<string, Trust>,
): Slots {
  const own = variants.find(({ id }) => id === variant);
  const others = variants.filter(({ id }) => id !== variant).flatMap(({ records }) => records);
  const records = (own?.records ?? []).filter(({ id }) => id !== record?.id);
  const resolved = resolveUnit(
    {
      familyEdits,
      variants: [
        { id: variant, edits: own?.edits ?? [], records: record ? [...records, record] : records },
        { id: -variant, edits: [], records: others },
      ],
    },
    dictionary,
    policies,
  );
  return resolved.variants[0]?.slots ?? new Map();
}
