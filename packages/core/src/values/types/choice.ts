import { foldText, textKey } from '../folding.js';
import type { ValueType } from '../model.js';
import { longestText, tooLong } from './lengths.js';

export const choice: ValueType<string> = {
  parse: (raw, _style, attribute) => {
    if (!attribute.choices) return raw.length > longestText ? tooLong(raw, longestText) : { ok: true, value: raw };
    const found = attribute.choices.find((word) => foldText(word) === foldText(raw));
    return found
      ? { ok: true, value: found }
      : {
          ok: false,
          reason:
            attribute.choices.length <= 8
              ? `“${raw}” is not one of ${attribute.choices.join(', ')}`
              : `“${raw}” is not on our list of ${attribute.choices.length} for ${attribute.label}`,
        };
  },
  format: (value) => value,
  plain: (value) => value,
  sortKey: textKey,
};
