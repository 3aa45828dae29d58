import { cleanMarkup, hasText, plainText } from '../markup.js';
import type { ValueType } from '../model.js';
import { tooLong } from './lengths.js';

const longestRichText = 100_000;
const longTextKey = 60;

export const richText: ValueType<string> = {
  parse: (raw) => {
    if (raw.length > longestRichText) return tooLong(raw, longestRichText);
    // Escaped more than once on the way: once is enough, and what was escaped markup stays escaped.
    const { html, removed } = cleanMarkup(raw.replace(/&(?:amp;)+(#?\w+;)/g, '&$1'));
    if (!hasText(html)) return { ok: false, reason: 'the description holds markup but no text' };
    return removed.length > 0
      ? { ok: true, value: html, notes: [`removed ${removed.join(', ')}`] }
      : { ok: true, value: html };
  },
  format: plainText,
  plain: plainText,
  // Nobody sorts by a description: its beginning tells two apart. What it contains is looked for in the whole of it.
  sortKey: (value) => value.slice(0, longTextKey),
};
