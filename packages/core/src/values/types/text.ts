import { decodeEntities } from '../markup.js';
import { textKey } from '../folding.js';
import type { ValueType } from '../model.js';
import { longestText, tooLong } from './lengths.js';

/** "6-12 days" however its dash was written. */
const span = /^(\d+)\s*[-–—]\s*(\d+) (\p{L}+)$/u;

export const text: ValueType<string> = {
  parse: (raw) => {
    if (raw.length > longestText) return tooLong(raw, longestText);
    const decoded = raw.includes('&') ? decodeEntities(raw) : raw;
    const single = /\t| {2}/.test(decoded) ? decoded.replace(/[ \t]+/g, ' ') : decoded;
    const value = single.replace(span, '$1–$2 $3');
    return decoded === raw ? { ok: true, value } : { ok: true, value, notes: ['decoded HTML entities'] };
  },
  format: (value) => value,
  plain: (value) => value,
  sortKey: textKey,
};
