/** Measures as values of an axis: by their amount after conversion, a × b by the first, ranges by the lower end. */
import { type Dimension, fractionSign, parseMeasure, plainStyle, steady, unitCode, units } from '../../values/index.js';
import type { Meaning, Reading } from './model.js';
import { readNumber, readSpan } from './numbers.js';

const dimensions = [...new Set(Object.values(units).map(({ dimension }) => dimension))];
const digit = String.raw`(?:\d|${fractionSign})`;
const range = new RegExp(
  String.raw`(?<=[\d\p{L}"″′']|${fractionSign})\s*(?:\p{Pd}|−|…|\.\.\.?|\s(?:to|bis|till|til|à|al|tot|do|až)\s)\s*(?=${digit})`,
  'iu',
);
const times = new RegExp(String.raw`\s*[x×*✕]\s*(?=[.,]|${digit})`, 'iu');
const limits = /^(?:<|≤|≥|>|max\.?|min\.?|up to|bis(?: zu)?|ab|from|från|upp till|ca\.?|~|≈)\s*/iu;
const unitAtEnd = /(?:[\p{L}°²³%"″′'’”]+(?:\s\p{L}+)?)\.?$/iu;

interface Read {
  base: number;
  dimension: Dimension;
}

function readOne(text: string, { decimal, unit }: Reading): Read | undefined {
  const read = parseMeasure(
    text.replace(limits, ''),
    { ...plainStyle, decimal, ...(unit === undefined ? {} : { unit }) },
    undefined,
  );
  const dimension = read.ok ? units[read.value.unit]?.dimension : undefined;
  return read.ok && dimension ? { base: steady(read.value.base), dimension } : undefined;
}

/** "10–20 cm", "90 x 200 cm", "1.5 m", "6 ft 2 in": figures without a unit take that of the one behind them. */
export function readMeasureMeaning(value: string, reading: Reading): Meaning | undefined {
  const text = value.normalize('NFC').trim();
  const whole = readOne(text, reading);
  if (whole) return meaningOf([[whole]]);
  const unit = unitCode(unitAtEnd.exec(text)?.[0] ?? '') ?? reading.unit;
  const behind = unit === undefined ? reading : { ...reading, unit };
  const sides = text.split(times).map((side) => side.split(range).map((end) => readOne(end, behind)));
  const found = sides.map((ends) => ends.filter((end) => end !== undefined));
  if (found.some((ends, i) => ends.length === 0 || ends.length !== sides[i]?.length)) return undefined;
  return meaningOf(found);
}

function meaningOf(sides: readonly (readonly Read[])[]): Meaning | undefined {
  const dimension = sides[0]?.[0]?.dimension;
  if (!dimension || sides.some((ends) => ends.length > 2 || ends.some((end) => end.dimension !== dimension)))
    return undefined;
  const place = [
    dimensions.indexOf(dimension),
    ...sides.map(([from]) => from?.base ?? 0),
    ...sides.map((ends) => ends.at(-1)?.base ?? 0),
  ];
  return {
    place,
    rest: '',
    same: `${dimension}:${sides.map((ends) => ends.map(({ base }) => base).join('–')).join('×')}`,
  };
}

/** The unit that bare figures of a list are in: the only one its other values have; undefined where there is none or several. */
export function onlyUnit(values: readonly string[]): string | undefined {
  const found = new Set<string | undefined>();
  let bare = 0;
  for (const value of values) {
    const text = value.trim();
    if (readNumber(text, { decimal: '.' }) !== undefined || readSpan(text, { decimal: '.', fractions: true })) bare++;
    else found.add(unitCode(unitAtEnd.exec(text)?.[0] ?? ''));
  }
  const [unit] = found;
  return bare > 0 && found.size === 1 ? unit : undefined;
}
