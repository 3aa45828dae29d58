import type { ValueType } from '../model.js';
import { longestAddress, tooLong } from './lengths.js';
import { text } from './text.js';

export const link: ValueType<string> = {
  ...text,
  parse: (raw) => (raw.length > longestAddress ? tooLong(raw, longestAddress) : { ok: true, value: raw.trim() }),
};
