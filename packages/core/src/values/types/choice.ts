import { textKey } from '../folding.js';
import { closedList } from '../lists.js';
import type { ValueType } from '../model.js';
import { longestText, tooLong } from './lengths.js';

/** Names told where a text is none of them. */
const mostTold = 8;

export const choice: ValueType<string> = {
  parse: (raw, _style, attribute) => {
    const list = closedList(attribute);
    if (!list) return raw.length > longestText ? tooLong(raw, longestText) : { ok: true, value: raw };
    const value = list.read(raw);
    if (value !== undefined) return { ok: true, value };
    const { values } = list;
    return {
      ok: false,
      reason:
        values.length <= mostTold
          ? `“${raw}” is not one of ${values.map(({ key }) => list.say(key)).join(', ')}`
          : `“${raw}” is not on our list of ${values.length} for ${attribute.label}`,
    };
  },
  format: (value, { names }, attribute) => closedList(attribute)?.say(value, names) ?? value,
  plain: (value, attribute) => closedList(attribute)?.say(value) ?? value,
  // What is on a list is compared by its key, whatever its names are.
  sortKey: (value, attribute) => (attribute.choices ? value : textKey(value)),
};
