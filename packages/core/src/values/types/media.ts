import { textKey } from '../folding.js';
import type { Media, ValueType } from '../model.js';
import { longestAddress, tooLong } from './lengths.js';

export const media: ValueType<Media> = {
  parse: (raw) => (raw.length > longestAddress ? tooLong(raw, longestAddress) : { ok: true, value: { name: raw } }),
  format: (value) => value.name,
  plain: (value) => value.name,
  sortKey: (value) => textKey(value.name),
};
