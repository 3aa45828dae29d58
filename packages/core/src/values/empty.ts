/** What people write where there is nothing: it is empty, and not wrong. */
import { foldText } from './folding.js';
import type { ClosedList } from './lists.js';

const marks = new Set([
  ...['-', '--', '---', '–', '—', '−', '_', '.', '..', '...', '…', '/', '\\', '*', '?', '??', '???', 'x'].slice(0, -1),
  ...[
    'n/a',
    'n.a.',
    'n. a.',
    'n.a',
    '#n/a',
    '#na',
    '#n/v',
    '#nv',
    '#value!',
    '#wert!',
    '#ref!',
    '#bezug!',
    '#div/0!',
    '#name?',
    '#null!',
  ],
  ...['null', 'nil', 'nan', 'undefined', '(blank)', '(leer)', '(tom)', '(null)', 'tbc', 'tbd', 'tba'],
  ...['not available', 'not applicable', 'unknown', 'k.a.', 'k. a.', 'k.a', 'keine angabe', 'ohne angabe', 'unbekannt'],
  ...['saknas', 'ej angivet', 'ej tillampligt', 'okand', 's/o', 's.o.', 'e.u.'],
]);

/** Whether a cell says that there is no value. A list that has the very word means it. */
export function isEmptyMark(cell: string, list?: ClosedList): boolean {
  const text = cell.trim();
  if (text === '') return true;
  if (text.length > 16) return false;
  const folded = foldText(text);
  return marks.has(folded) && list?.read(text) === undefined;
}
