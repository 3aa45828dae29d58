import { foldText } from '../folding.js';
import type { ValueType } from '../model.js';

const yes = new Set(['yes', 'y', 'true', '1', 'ja', 'j', 'x', 'wahr']);
const no = new Set(['no', 'n', 'false', '0', 'nein', 'nej', 'falsch']);

export const boolean: ValueType<boolean> = {
  parse: (raw) => {
    const word = foldText(raw);
    if (yes.has(word)) return { ok: true, value: true };
    if (no.has(word)) return { ok: true, value: false };
    return { ok: false, reason: `“${raw}” is neither yes nor no` };
  },
  format: (value) => (value ? 'yes' : 'no'),
  plain: (value) => (value ? 'yes' : 'no'),
  sortKey: (value) => (value ? 1 : 0),
};
