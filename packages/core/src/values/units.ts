import type { Dimension, Measure, Parsed, ReadingStyle } from './model.js';
import { parseDecimal, steady } from './numbers.js';

interface Unit {
  dimension: Dimension;
  /** How many base units one of it is (metre, litre, kilogram, watt, lumen, kelvin, day). */
  factor: number;
  aliases?: string[];
}

/** Units by their UCUM-style code; conversion factors are exact (BIPM SI brochure, international yard and pound). */
export const units: Record<string, Unit> = {
  mm: { dimension: 'length', factor: 0.001, aliases: ['millimetre', 'millimeter'] },
  cm: { dimension: 'length', factor: 0.01, aliases: ['centimetre', 'centimeter', 'zentimeter'] },
  m: { dimension: 'length', factor: 1, aliases: ['metre', 'meter'] },
  in: { dimension: 'length', factor: 0.0254, aliases: ['"', '″', '”', 'inch', 'inches', 'zoll', 'tum'] },
  ft: { dimension: 'length', factor: 0.3048, aliases: ['foot', 'feet'] },
  ml: { dimension: 'volume', factor: 0.001, aliases: ['millilitre', 'milliliter'] },
  cl: { dimension: 'volume', factor: 0.01 },
  l: { dimension: 'volume', factor: 1, aliases: ['litre', 'liter', 'litres', 'ltr'] },
  pt: { dimension: 'volume', factor: 0.56826125, aliases: ['pint', 'pints'] },
  gal: { dimension: 'volume', factor: 4.54609, aliases: ['gallon', 'gallons'] },
  g: { dimension: 'mass', factor: 0.001, aliases: ['gram', 'gramm', 'grams'] },
  kg: { dimension: 'mass', factor: 1, aliases: ['kilogram', 'kilo', 'kilogramm'] },
  oz: { dimension: 'mass', factor: 0.028349523125, aliases: ['ounce', 'ounces'] },
  lb: { dimension: 'mass', factor: 0.45359237, aliases: ['lbs', 'pound', 'pounds'] },
  w: { dimension: 'power', factor: 1, aliases: ['watt', 'watts'] },
  kw: { dimension: 'power', factor: 1000 },
  lm: { dimension: 'luminousFlux', factor: 1, aliases: ['lumen'] },
  k: { dimension: 'temperature', factor: 1, aliases: ['kelvin'] },
  d: { dimension: 'time', factor: 1, aliases: ['day', 'days', 'tage', 'dagar'] },
};

/** How a unit is written for people. */
export const unitLabel: Record<string, string> = { l: 'L', w: 'W', kw: 'kW', k: 'K' };

const byName = new Map<string, string>();
for (const [code, unit] of Object.entries(units))
  for (const name of [code, ...(unit.aliases ?? [])]) byName.set(name, code);

/** The code of a unit as somebody wrote it ("Liter", "W", "″"), or undefined. */
export function unitCode(written: string): string | undefined {
  return byName.get(written.trim().toLowerCase().replace(/\.$/, ''));
}

/** Reads "24 W", "Ø 12 cm", "1,5 m", or a bare number where the style gives the unit. */
export function parseMeasure(raw: string, style: ReadingStyle, dimension: Dimension | undefined): Parsed<Measure> {
  const match = /^(.*?[\d.,]) *([^\d\s.,][^\d]*)?$/u.exec(raw.trim());
  if (!match?.[1]) return { ok: false, reason: `“${raw}” is not a number with a unit` };
  const amount = parseDecimal(match[1], style);
  if (!amount.ok) return { ok: false, reason: `“${raw}” is not a number with a unit` };
  const written = match[2]?.trim() ?? style.unit;
  if (!written) return { ok: false, reason: `“${raw}” has no unit; write for example “${match[1].trim()} cm”` };
  const code = unitCode(written);
  const unit = code === undefined ? undefined : units[code];
  if (code === undefined || !unit) return { ok: false, reason: `“${written}” is not a unit we know` };
  if (dimension && unit.dimension !== dimension)
    return { ok: false, reason: `“${raw}” is a ${unit.dimension}, not a ${dimension}` };
  const value = makeMeasure(amount.value, code);
  const notes = [...(amount.notes ?? [])];
  if (match[2] && style.unit && unitCode(style.unit) !== code) notes.push(`“${raw}” carries its own unit`);
  return notes.length > 0 ? { ok: true, value, notes } : { ok: true, value };
}

/** A measure from a plain decimal string and a unit code. */
export function makeMeasure(amount: string, unit: string): Measure {
  return { amount, base: steady(Number(amount) * (units[unit]?.factor ?? 1)), unit };
}

/** The same quantity in another unit of its dimension, or undefined where the dimensions differ. */
export function convertMeasure(value: Measure, to: string): Measure | undefined {
  const from = units[value.unit];
  const target = units[to];
  if (!from || !target || from.dimension !== target.dimension) return undefined;
  if (value.unit === to) return value;
  return { amount: String(steady((Number(value.amount) * from.factor) / target.factor)), unit: to, base: value.base };
}
