import { foldText } from '../folding.js';
import type { ValueType } from '../model.js';

/** Folded, in the languages of Europe; a cross or a tick is a yes. */
const yes = new Set(
  'yes y true 1 ja j x wahr vrai oui o vero si s verdadero verdadeiro sim prawda tak t sant sand kylla k tosi ano a pravda jah igen да ✓ ✔ on waar'.split(
    ' ',
  ),
);
const no = new Set(
  'no n false 0 nein nej falsch faux non falso nao nie falsz usant falsk ei e epatosi ne nepravda nem нет ✗ ✘ off onwaar nee -'.split(
    ' ',
  ),
);

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
