/** What is said of attributes that were made one with another, told by the one that is left. */
import { type Value, mapListed } from '../values/index.js';
import { splitSlot } from './unit.js';

/** By the key of an attribute that is gone: the one that is left, and of each value of its list the value there. */
export type MergedAttributes = ReadonlyMap<string, { into: string; values: ReadonlyMap<string, string> }>;

/** The slot that one stands for. */
export function currentSlot(slot: string, merged: MergedAttributes): string {
  const [key, language] = splitSlot(slot);
  const into = merged.get(key)?.into;
  if (into === undefined) return slot;
  return language === undefined ? into : `${into}@${language}`;
}

/** A value said in a slot, by the list it is on now. */
export function currentSaid(slot: string, value: Value, merged: MergedAttributes): Value {
  const values = merged.get(splitSlot(slot)[0])?.values;
  return values && values.size > 0 ? mapListed(value, (key) => values.get(key) ?? key) : value;
}

/** All that a source says, by slot; what it says of the attribute that is left itself stands before the rest. */
export function currentSlots(said: Readonly<Record<string, Value>>, merged: MergedAttributes): Record<string, Value> {
  if (merged.size === 0) return said;
  const [own, moved] = [new Map<string, Value>(), new Map<string, Value>()];
  for (const [slot, value] of Object.entries(said)) {
    const now = currentSlot(slot, merged);
    (now === slot ? own : moved).set(now, currentSaid(slot, value, merged));
  }
  return Object.fromEntries([...moved, ...own]);
}
