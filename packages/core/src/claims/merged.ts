/** What is said of attributes that were made one with another, told by the one that is left. */
import type { Value } from '../values/index.js';
import { splitSlot } from './unit.js';

/**
 * By the key of an attribute that is gone: the one that is left, and how a value is read as one of that, by its list and its
 * kind; undefined where it cannot be.
 */
export type MergedAttributes = ReadonlyMap<string, { into: string; read: (value: Value) => Value | undefined }>;

/** The slot that one stands for. */
export function currentSlot(slot: string, merged: MergedAttributes): string {
  const [key, language] = splitSlot(slot);
  const into = merged.get(key)?.into;
  if (into === undefined) return slot;
  return language === undefined ? into : `${into}@${language}`;
}

/** A value said in a slot, by the list it is on and the kind it is of now; undefined where it is no value of that kind. */
export function currentSaid(slot: string, value: Value, merged: MergedAttributes): Value | undefined {
  const attribute = merged.get(splitSlot(slot)[0]);
  return attribute ? attribute.read(value) : value;
}

/** All that a source says, by slot; what it says of the attribute that is left itself stands before the rest. */
export function currentSlots(said: Readonly<Record<string, Value>>, merged: MergedAttributes): Record<string, Value> {
  if (merged.size === 0) return said;
  const [own, moved] = [new Map<string, Value>(), new Map<string, Value>()];
  for (const [slot, value] of Object.entries(said)) {
    const now = currentSlot(slot, merged);
    const says = currentSaid(slot, value, merged);
    if (says !== undefined) (now === slot ? own : moved).set(now, says);
  }
  return Object.fromEntries([...moved, ...own]);
}
