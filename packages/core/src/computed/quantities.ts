/** Quantities that can be multiplied and divided: a size in coherent units, and the powers of what it is made of. */
import Big from 'big.js';
import {
  type Attribute,
  type Dimension,
  type Measure,
  type SingleValue,
  dimensionWords,
  makeMeasure,
  steady,
  units,
} from '../values/index.js';

type Base = 'length' | 'mass' | 'time' | 'voltage' | 'current' | 'flux' | 'pressure';
export type Powers = Partial<Record<Base, number>>;

/**
 * Powers of each dimension, and how many coherent units (metre, kilogram, day, volt, ampere, lumen, bar) its base unit is
 * (BIPM SI brochure, 9th edition, tables 2 and 4). Levels and temperatures are no quantities that multiply.
 */
const made: Partial<Record<Dimension, { powers: Powers; scale: number }>> = {
  length: { powers: { length: 1 }, scale: 1 },
  area: { powers: { length: 2 }, scale: 1 },
  volume: { powers: { length: 3 }, scale: 0.001 },
  mass: { powers: { mass: 1 }, scale: 1 },
  time: { powers: { time: 1 }, scale: 1 },
  frequency: { powers: { time: -1 }, scale: 86_400 },
  voltage: { powers: { voltage: 1 }, scale: 1 },
  current: { powers: { current: 1 }, scale: 1 },
  power: { powers: { voltage: 1, current: 1 }, scale: 1 },
  energy: { powers: { voltage: 1, current: 1, time: 1 }, scale: 1 / 24 },
  charge: { powers: { current: 1, time: 1 }, scale: 1 / 24 },
  luminousFlux: { powers: { flux: 1 }, scale: 1 },
  illuminance: { powers: { flux: 1, length: -2 }, scale: 1 },
  pressure: { powers: { pressure: 1 }, scale: 1 },
  ratio: { powers: {}, scale: 1 },
};

/** Of an attribute: numbers have none; undefined where it cannot be multiplied. */
export function powersOf({ type, dimension }: Attribute): Powers | undefined {
  if (type === 'number') return {};
  return type === 'measure' && dimension ? made[dimension]?.powers : undefined;
}

/** Whether these powers, of money or not, are what an attribute holds. */
export function gives(attribute: Attribute, powers: Powers, isMoney: boolean): boolean {
  if (isMoney) return attribute.type === 'money' && samePowers(powers, {});
  const wanted = powersOf(attribute);
  return wanted !== undefined && samePowers(powers, wanted);
}

/** A number or measure in coherent units. */
export function sizeIn(value: SingleValue, attribute: Attribute | undefined): number {
  if (typeof value === 'number') return value;
  return (value as Measure).base * ((attribute?.dimension && made[attribute.dimension]?.scale) ?? 1);
}

export function timesPowers(a: Powers, b: Powers, sign: 1 | -1): Powers {
  const sum: Powers = { ...a };
  for (const [base, power] of Object.entries(b) as [Base, number][]) sum[base] = (sum[base] ?? 0) + sign * power;
  return sum;
}

const samePowers = (a: Powers, b: Powers): boolean =>
  ([...Object.keys(a), ...Object.keys(b)] as Base[]).every((base) => (a[base] ?? 0) === (b[base] ?? 0));

/** A quantity as a value of an attribute of its powers, in a unit of its dimension. */
export function valueOf(size: number, { dimension }: Attribute, unit: string | undefined): SingleValue {
  const how = dimension && made[dimension];
  const measured = unit === undefined ? undefined : units[unit];
  if (!how || !measured || unit === undefined) return steady(size);
  return inUnit(size / how.scale, unit);
}

/** So many base units, as a measure in this unit. */
export function inUnit(base: number, unit: string): Measure {
  const { factor = 1, offset = 0 } = units[unit] ?? {};
  return makeMeasure(new Big(steady((base - offset) / factor)).toFixed(), unit);
}

/** “length”, “amount of money”. */
export function sayKind({ type, dimension }: Attribute): string {
  if (type === 'measure' && dimension) return dimensionWords[dimension];
  return type === 'money' ? 'amount of money' : type;
}
