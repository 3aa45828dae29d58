/** Sizes by what they mean: ages, letters, figures, measures; what fits everybody last. */
import { foldLetters, fractionSign } from '../../values/index.js';
import { readMeasureMeaning } from './measures.js';
import type { Meaning, Reading } from './model.js';
import { readNumber, readSpan } from './numbers.js';
import { ageUnits, announcers, beds, extras, fits, multiples, named, newborn, oneSizes, rungs } from './size-words.js';
import { foldSpelling } from './text.js';

/** Kinds of sizes in the order in which a list that mixes them shows them. */
const groups = ['age', 'letter', 'named', 'bed', 'figure', 'measure', 'cup', 'one'] as const;
type Group = (typeof groups)[number];

const meaning = (group: Group, place: readonly number[], rest = ''): Meaning => {
  const folded = foldSpelling(rest);
  return {
    place: [groups.indexOf(group), ...place],
    rest: rest.trim(),
    same: `${group}:${place.join('–')}${folded ? ` ${folded}` : ''}`,
  };
};

const fractionSigns = new RegExp(fractionSign, 'gu');

/** As the words of sizes are kept. */
const foldSize = (text: string): string =>
  foldLetters(text.replace(fractionSigns, ' $&'))
    .replace(/\u2044/gu, '/')
    .replace(/[\p{Pd}\u2212]/gu, '-')
    .replace(/[’'´]s\b/gu, 's')
    .replace(/\s+/gu, ' ')
    .trim();

/**
 * Where a size stands on the ladder of letters (m is 0, l 1, xl 2, 3xl 4, xs -2): “XXL”, “2XL”, “2 x large”, “X-Large”,
 * “extra large”, “LRG”, “4X”.
 */
function rungOf(text: string): number | undefined {
  const words = text
    .replace(/[\s.-]+/gu, ' ')
    .trim()
    .split(' ');
  let times: number | undefined;
  let out = 0;
  for (const [i, word] of words.entries()) {
    const found = /^(\d{0,2})(x*|extra|ekstra)(\p{L}*)$/u.exec(word);
    const whole = rungs.get(word);
    if (extras.has(word) || /^x+$/u.test(word)) out += /^x+$/u.test(word) ? word.length : 1;
    else if (multiples.has(word)) times = multiples.get(word);
    else if (whole !== undefined) return i === words.length - 1 ? step(whole, out, times) : undefined;
    else if (found) {
      const [, figure = '', run = '', rest = ''] = found;
      if (figure !== '') times = Number(figure);
      if (run !== '') out += run.startsWith('x') ? run.length : 1;
      if (i < words.length - 1 && rest === '') continue;
      // One’s own ladder of plus sizes: “2X” is as large as “2XL”.
      const rung = rest === '' && figure !== '' && run === 'x' ? 1 : rungs.get(rest);
      return i === words.length - 1 && rung !== undefined ? step(rung, out, times) : undefined;
    } else return undefined;
  }
  return undefined;
}

/** So many rungs further out from the middle; there is no extra medium, and figures count x alone. */
function step(rung: number, out: number, times: number | undefined): number | undefined {
  if (times !== undefined && (out === 0 || times === 0)) return undefined;
  const many = times === undefined ? out : times + out - 1;
  if (rung === 0) return many === 0 ? 0 : undefined;
  return rung < 0 ? rung - many : rung + many;
}

const ageWords = [...ageUnits.keys()]
  .sort((a, b) => b.length - a.length)
  .map((word) => word.replaceAll('.', String.raw`\.`))
  .join('|');
const age = new RegExp(
  String.raw`^(?:(?:age|ages|aged|alter|alder|age de|from|ab|fra|fran|from age)\s*)?(\d+(?:[.,]\d+)?)\s*(${ageWords})?\.?\s*(?:(?:-|/|to|bis|till|til|a|al|tot|do|az)\s*(\d+(?:[.,]\d+)?)\s*(${ageWords})?\.?|(\+))?(?:\s*(?:old|alt|gammal))?$`,
  'u',
);

/** “0-3 months”, “18m”, “6-12 mths”, “2 years”, “6m-1y”, “2T”, “3+ years”, newborn. */
function readAge(text: string, { lengths }: Reading): Meaning | undefined {
  const youngest = newborn.get(text.replace(/-/gu, ' '));
  if (youngest !== undefined && text !== '0') return meaning('age', [youngest, youngest]);
  const open = /^(\d+)\s*\+\s*(\p{L}+)$/u.exec(text) ?? /^(?:ab|from|from age)\s+(\d+)\s*(\p{L}+)$/u.exec(text);
  if (open) {
    const months = ageUnits.get(open[2] ?? '');
    return months === undefined ? undefined : meaning('age', [Number(open[1]) * months, Infinity]);
  }
  const found = age.exec(text);
  if (!found) return undefined;
  const [, from = '', unit, to, unitOfTo, plus] = found;
  const said = /^(?:age|ages|aged|alter|alder)/u.test(text);
  const last = unitOfTo ?? unit;
  if (last === undefined && !said) return undefined;
  const monthsTo = last === undefined ? 12 : (ageUnits.get(last) ?? 12);
  const monthsFrom = unit === undefined ? monthsTo : (ageUnits.get(unit) ?? 12);
  const [lower, upper] = [
    number(from) * monthsFrom,
    to === undefined ? number(from) * monthsFrom : number(to) * monthsTo,
  ];
  if (last === 'm' && lengths) return undefined;
  // “90 m” of a hose, “10 l” of a pot, “38 t”: larger than any age that clothes and toys are sold by.
  if (!said && (last === 'm' ? upper > 36 : upper > 12 * 18) && last !== undefined && last.length === 1)
    return undefined;
  return meaning('age', [lower, plus === undefined ? upper : Infinity]);
}

const number = (text: string): number => Number(text.replace(',', '.'));

/** “34B”, “75 C”, “32 DD”: band and cup. */
const cups = ['aaa', 'aa', 'a', 'b', 'c', 'd', 'dd', 'e', 'ee', 'f', 'ff', 'g', 'gg', 'h', 'hh', 'i', 'j', 'jj', 'k'];
function readCup(text: string): Meaning | undefined {
  const found = /^(\d{2,3})\s?-?([a-k]{1,3})$/u.exec(text);
  const cup = cups.indexOf(found?.[2] ?? '');
  const band = Number(found?.[1]);
  return found && cup >= 0 && band >= 28 && band <= 130 ? meaning('cup', [band, cup]) : undefined;
}

/** “W32 L34”, “32W x 34L”, “32/34” stays a span. */
function readWaist(text: string): Meaning | undefined {
  const found = /^w ?(\d{2})[ /x-]*l ?(\d{2})$/u.exec(text) ?? /^(\d{2}) ?w[ /x-]*(\d{2}) ?l$/u.exec(text);
  return found ? meaning('figure', [Number(found[1]), Number(found[2])]) : undefined;
}

function readLetters(text: string): Meaning | undefined {
  const rung = rungOf(text);
  if (rung !== undefined) return meaning('letter', [rung, rung, 0]);
  // “S/M”, “L-XL”, “small to medium”.
  const ends = /^(.+?)\s*(?:\/|-|–|\bto\b|\bbis\b|\btill\b|&|\+)\s*(.+)$/u.exec(text);
  if (ends) {
    const [from, to] = [rungOf(ends[1] ?? ''), rungOf(ends[2] ?? '')];
    if (from !== undefined && to !== undefined)
      return from === to
        ? meaning('letter', [from, to, 0])
        : meaning('letter', [Math.min(from, to), Math.max(from, to), 0]);
  }
  // “L tall”, “XLT”, “M short”.
  const tall = /^(x*s|m|x*l|\d{1,2}xl)t$/u.exec(text);
  const tallRung = tall && rungOf(tall[1] ?? '');
  if (typeof tallRung === 'number') return meaning('letter', [tallRung, tallRung, 1]);
  const at = text.lastIndexOf(' ');
  const fit = at < 0 ? undefined : fits.get(text.slice(at + 1));
  const held = fit === undefined ? undefined : rungOf(text.slice(0, at));
  if (fit !== undefined && held !== undefined) return meaning('letter', [held, held, fit]);
  return undefined;
}

export function readSizeMeaning(value: string, reading: Reading): Meaning | undefined {
  let text = foldSize(value);
  const spaced = text.replace(/-/gu, ' ');
  if (oneSizes.has(text) || oneSizes.has(spaced) || /^one ?size\b/u.test(spaced))
    return { ...meaning('one', []), isLast: true };
  const [head = ''] = text.split(/[\s.:]+/u);
  const bare = text.slice(head.length).replace(/^[\s.:]+/u, '');
  if (announcers.has(head) && bare !== '' && /[\s.:]/u.test(text.charAt(head.length))) text = bare;
  const read = readBare(text, reading);
  if (read) return read;
  // “M (38–40)”, “L, 42/44”: the letters say it, the rest stands beside them.
  const beside = /^(.+?)\s*(?:\(|,|:|=|\s-\s|\||\s(?=\d))\s*(.+?)\)?$/u.exec(text);
  const main = beside && (readLetters(beside[1]?.trim() ?? '') ?? readAge(beside[1]?.trim() ?? '', reading));
  if (beside && main) {
    // The same said twice, “Small (S)”, is said once.
    const again = readBare(beside[2]?.trim() ?? '', reading);
    return again?.same === main.same
      ? main
      : { ...main, rest: beside[2] ?? '', same: `${main.same} ${foldSpelling(beside[2] ?? '')}` };
  }
  const trailed = /^(\d+(?:[.,]\d+)?(?:\s+\d+\/\d+)?)\s*[( ]\s*(\p{L}.*?)\)?$/u.exec(text);
  const amount = trailed && readNumber(trailed[1] ?? '', reading);
  // “38 (M)”, “38 wide”.
  if (trailed && typeof amount === 'number') {
    const fit = fits.get(trailed[2] ?? '');
    return fit === undefined
      ? meaning('figure', [amount, amount], trailed[2])
      : meaning('figure', [amount, amount, fit]);
  }
  // “EU 38”, “UK 5½”, “women XL”: those of one kind together.
  const led = /^(\p{L}[\p{L}\s]*?)[\s,.:-]+(\S.*)$/u.exec(text);
  const behind = led && readBare(led[2] ?? '', reading);
  if (led && behind) return { ...behind, lead: led[1] ?? '', same: `${led[1] ?? ''} ${behind.same}` };
  const [word = '', ...others] = text.split(' ');
  const first = others.length > 0 ? readLetters(word) : undefined;
  return first && { ...first, rest: others.join(' '), same: `${first.same} ${foldSpelling(others.join(' '))}` };
}

function readBare(text: string, reading: Reading): Meaning | undefined {
  const letters = readLetters(text);
  if (letters) return letters;
  const grown = readAge(text, reading);
  if (grown) return grown;
  const worn = readWaist(text) ?? readCup(text);
  if (worn) return worn;
  const span = readSpan(text, reading);
  if (span) return meaning('figure', span);
  const measured = readMeasureMeaning(text, { decimal: reading.decimal, fractions: reading.fractions });
  if (measured) return { ...measured, place: [groups.indexOf('measure'), ...measured.place] };
  const bed = beds.get(text.replace(/-/gu, ' '));
  if (bed !== undefined) return meaning('bed', [bed]);
  const name = named.get(text);
  return name === undefined ? undefined : meaning('named', [name]);
}
