import type { Dimension } from './model.js';

export interface Unit {
  dimension: Dimension;
  /** How many base units one of it is; the base of each dimension is the one with factor 1. */
  factor: number;
  /** Base units at its zero (degrees Celsius: 273.15 kelvin). */
  offset?: number;
  /** As it is written for people, where that is not its code. */
  label?: string;
  /** How else it is written, in small letters: signs, and its name in English, German and Swedish, one and several. */
  names?: string[];
}

/**
 * Units by their UCUM-style code; conversion factors are exact (BIPM SI brochure, 9th edition; international yard and pound,
 * 1959; imperial gallon, Weights and Measures Act 1985).
 */
export const units: Record<string, Unit> = {
  mm: {
    dimension: 'length',
    factor: 0.001,
    names: ['millimetre', 'millimetres', 'millimeter', 'millimeters', 'millimetern'],
  },
  cm: {
    dimension: 'length',
    factor: 0.01,
    names: ['centimetre', 'centimetres', 'centimeter', 'centimeters', 'zentimeter', 'zentimetern', 'cms'],
  },
  dm: { dimension: 'length', factor: 0.1, names: ['decimetre', 'decimetres', 'decimeter', 'dezimeter'] },
  m: { dimension: 'length', factor: 1, names: ['metre', 'metres', 'meter', 'meters', 'metern', 'mtr', 'lfm', 'lm.'] },
  km: { dimension: 'length', factor: 1000, names: ['kilometre', 'kilometres', 'kilometer', 'kilometers'] },
  in: {
    dimension: 'length',
    factor: 0.0254,
    names: ['"', '″', '”', '“', "''", '′′', '’’', 'inch', 'inches', 'zoll', 'tum'],
  },
  ft: { dimension: 'length', factor: 0.3048, names: ["'", '′', '’', 'foot', 'feet', 'fuß', 'fuss', 'fot'] },
  yd: { dimension: 'length', factor: 0.9144, names: ['yard', 'yards', 'yds'] },
  mm2: {
    dimension: 'area',
    factor: 0.000001,
    label: 'mm²',
    names: ['mm²', 'mm^2', 'sq mm', 'quadratmillimeter', 'kvadratmillimeter'],
  },
  cm2: {
    dimension: 'area',
    factor: 0.0001,
    label: 'cm²',
    names: [
      'cm²',
      'cm^2',
      'qcm',
      'sq cm',
      'square centimetres',
      'square centimeters',
      'quadratzentimeter',
      'kvadratcentimeter',
    ],
  },
  m2: {
    dimension: 'area',
    factor: 1,
    label: 'm²',
    names: [
      'm²',
      'm^2',
      'qm',
      'sqm',
      'sq m',
      'kvm',
      'square metre',
      'square metres',
      'square meter',
      'square meters',
      'quadratmeter',
      'quadratmetern',
      'kvadratmeter',
    ],
  },
  ft2: {
    dimension: 'area',
    factor: 0.09290304,
    label: 'ft²',
    names: ['ft²', 'ft^2', 'sq ft', 'sqft', 'square foot', 'square feet'],
  },
  ml: {
    dimension: 'volume',
    factor: 0.001,
    names: ['millilitre', 'millilitres', 'milliliter', 'milliliters', 'millilitern'],
  },
  cl: { dimension: 'volume', factor: 0.01, names: ['centilitre', 'centilitres', 'centiliter', 'zentiliter'] },
  dl: { dimension: 'volume', factor: 0.1, names: ['decilitre', 'decilitres', 'deciliter', 'deziliter'] },
  l: {
    dimension: 'volume',
    factor: 1,
    label: 'L',
    names: ['litre', 'litres', 'liter', 'liters', 'litern', 'ltr', 'lit', 'ℓ', 'dm³', 'dm3'],
  },
  hl: { dimension: 'volume', factor: 100, names: ['hectolitre', 'hectolitres', 'hektoliter'] },
  cm3: {
    dimension: 'volume',
    factor: 0.001,
    label: 'cm³',
    names: ['cm³', 'cm^3', 'ccm', 'cc', 'cubic centimetres', 'cubic centimeters', 'kubikzentimeter', 'kubikcentimeter'],
  },
  m3: {
    dimension: 'volume',
    factor: 1000,
    label: 'm³',
    names: ['m³', 'm^3', 'cbm', 'cubic metre', 'cubic metres', 'cubic meters', 'kubikmeter'],
  },
  pt: { dimension: 'volume', factor: 0.56826125, names: ['pint', 'pints'] },
  gal: { dimension: 'volume', factor: 4.54609, names: ['gallon', 'gallons'] },
  mg: { dimension: 'mass', factor: 0.000001, names: ['milligram', 'milligrams', 'milligramm'] },
  g: { dimension: 'mass', factor: 0.001, names: ['gram', 'grams', 'gramme', 'grammes', 'gramm', 'gr', 'gms'] },
  hg: { dimension: 'mass', factor: 0.1, names: ['hekto', 'hektogram'] },
  kg: {
    dimension: 'mass',
    factor: 1,
    names: ['kilogram', 'kilograms', 'kilogramme', 'kilo', 'kilos', 'kilogramm', 'kgs'],
  },
  t: {
    dimension: 'mass',
    factor: 1000,
    names: ['tonne', 'tonnes', 'tonnen', 'ton', 'tons', 'metric ton', 'metric tons'],
  },
  oz: { dimension: 'mass', factor: 0.028349523125, names: ['ounce', 'ounces', 'unze', 'unzen', 'uns'] },
  lb: { dimension: 'mass', factor: 0.45359237, names: ['lbs', 'pound', 'pounds'] },
  st: { dimension: 'mass', factor: 6.35029318, names: ['stone', 'stones'] },
  mw: { dimension: 'power', factor: 0.001, label: 'mW', names: ['milliwatt', 'milliwatts'] },
  w: { dimension: 'power', factor: 1, label: 'W', names: ['watt', 'watts'] },
  kw: { dimension: 'power', factor: 1000, label: 'kW', names: ['kilowatt', 'kilowatts'] },
  wh: { dimension: 'energy', factor: 1, label: 'Wh', names: ['watt hour', 'watt hours', 'wattstunden', 'wattimmar'] },
  kwh: {
    dimension: 'energy',
    factor: 1000,
    label: 'kWh',
    names: ['kilowatt hour', 'kilowatt hours', 'kilowattstunden', 'kilowattimmar'],
  },
  lm: { dimension: 'luminousFlux', factor: 1, names: ['lumen', 'lumens'] },
  lx: { dimension: 'illuminance', factor: 1, names: ['lux'] },
  k: { dimension: 'temperature', factor: 1, label: 'K', names: ['kelvin', '°k'] },
  cel: {
    dimension: 'temperature',
    factor: 1,
    offset: 273.15,
    label: '°C',
    names: ['°c', '℃', 'degc', 'deg c', 'celsius', 'grad', 'grad celsius', 'grader', 'degrees celsius', '° c'],
  },
  degf: {
    dimension: 'temperature',
    factor: 5 / 9,
    offset: 459.67 * (5 / 9),
    label: '°F',
    names: ['°f', '℉', 'deg f', 'fahrenheit', 'grad fahrenheit', 'degrees fahrenheit', '° f'],
  },
  s: {
    dimension: 'time',
    factor: 1 / 86_400,
    names: ['sec', 'secs', 'second', 'seconds', 'sek', 'sekunde', 'sekunden', 'sekund', 'sekunder'],
  },
  min: { dimension: 'time', factor: 1 / 1440, names: ['mins', 'minute', 'minutes', 'minuten', 'minut', 'minuter'] },
  h: {
    dimension: 'time',
    factor: 1 / 24,
    names: ['hr', 'hrs', 'hour', 'hours', 'std', 'stunde', 'stunden', 'timme', 'timmar', 'tim'],
  },
  d: { dimension: 'time', factor: 1, names: ['day', 'days', 'tag', 'tage', 'tagen', 'dag', 'dagar', 'dygn'] },
  wk: { dimension: 'time', factor: 7, names: ['week', 'weeks', 'woche', 'wochen', 'vecka', 'veckor'] },
  mv: { dimension: 'voltage', factor: 0.001, label: 'mV', names: ['millivolt'] },
  v: { dimension: 'voltage', factor: 1, label: 'V', names: ['volt', 'volts', 'v ac', 'v dc', 'vac', 'vdc', 'v~'] },
  kv: { dimension: 'voltage', factor: 1000, label: 'kV', names: ['kilovolt'] },
  ma: { dimension: 'current', factor: 0.001, label: 'mA', names: ['milliampere', 'milliamp', 'milliamps'] },
  a: { dimension: 'current', factor: 1, label: 'A', names: ['ampere', 'amperes', 'amp', 'amps'] },
  mah: { dimension: 'charge', factor: 0.001, label: 'mAh', names: ['milliampere hours', 'milliamperestunden'] },
  ah: { dimension: 'charge', factor: 1, label: 'Ah', names: ['ampere hours', 'amperestunden', 'amperetimmar'] },
  hz: { dimension: 'frequency', factor: 1, label: 'Hz', names: ['hertz'] },
  khz: { dimension: 'frequency', factor: 1000, label: 'kHz', names: ['kilohertz'] },
  mhz: { dimension: 'frequency', factor: 1e6, label: 'MHz', names: ['megahertz'] },
  ghz: { dimension: 'frequency', factor: 1e9, label: 'GHz', names: ['gigahertz'] },
  db: {
    dimension: 'soundLevel',
    factor: 1,
    label: 'dB',
    names: ['decibel', 'decibels', 'dezibel', 'db(a)', 'db a', 'dba'],
  },
  pa: { dimension: 'pressure', factor: 0.00001, label: 'Pa', names: ['pascal'] },
  kpa: { dimension: 'pressure', factor: 0.01, label: 'kPa', names: ['kilopascal'] },
  mbar: { dimension: 'pressure', factor: 0.001, names: ['millibar', 'hpa'] },
  bar: { dimension: 'pressure', factor: 1, names: ['bars'] },
  psi: { dimension: 'pressure', factor: 0.0689475729316836 },
  '%': { dimension: 'ratio', factor: 0.01, names: ['percent', 'per cent', 'prozent', 'procent', 'pct', '％'] },
};

/** Codes of UCUM where they are not ours in small letters: capitals mean something there, and units of no metric kind stand in brackets. */
const ucum: Record<string, string> = {
  w: 'W',
  kw: 'kW',
  mw: 'mW',
  wh: 'W.h',
  kwh: 'kW.h',
  v: 'V',
  kv: 'kV',
  mv: 'mV',
  k: 'K',
  cel: 'Cel',
  degf: '[degF]',
  a: 'A',
  ma: 'mA',
  ah: 'A.h',
  mah: 'mA.h',
  hz: 'Hz',
  khz: 'kHz',
  mhz: 'MHz',
  ghz: 'GHz',
  db: 'dB',
  pa: 'Pa',
  kpa: 'kPa',
  in: '[in_i]',
  ft: '[ft_i]',
  yd: '[yd_i]',
  ft2: '[ft_i]2',
  oz: '[oz_av]',
  lb: '[lb_av]',
  st: '[stone_av]',
  pt: '[pt_br]',
  gal: '[gal_br]',
  psi: '[psi]',
};

/** The code of a unit as UCUM writes it. */
export const ucumCode = (code: string): string => ucum[code] ?? code;

/** How a unit is written for people, by its code. */
export const sayUnit = (code: string): string => units[code]?.label ?? code;

/**
 * Unit codes of UN/CEFACT Recommendation 20, which schema.org's `unitCode` takes. They are capitals; small letters mean
 * something else ("GRM" is a gram, "grm" nothing).
 */
const recommended20: Record<string, string> = {
  MMT: 'mm',
  CMT: 'cm',
  DMT: 'dm',
  MTR: 'm',
  KMT: 'km',
  INH: 'in',
  FOT: 'ft',
  YRD: 'yd',
  MMK: 'mm2',
  CMK: 'cm2',
  MTK: 'm2',
  FTK: 'ft2',
  MLT: 'ml',
  CLT: 'cl',
  DLT: 'dl',
  LTR: 'l',
  HLT: 'hl',
  CMQ: 'cm3',
  MTQ: 'm3',
  PTI: 'pt',
  GLI: 'gal',
  MGM: 'mg',
  GRM: 'g',
  HGM: 'hg',
  KGM: 'kg',
  TNE: 't',
  ONZ: 'oz',
  LBR: 'lb',
  STI: 'st',
  C31: 'mw',
  WTT: 'w',
  KWT: 'kw',
  WHR: 'wh',
  KWH: 'kwh',
  LUM: 'lm',
  LUX: 'lx',
  KEL: 'k',
  CEL: 'cel',
  FAH: 'degf',
  SEC: 's',
  MIN: 'min',
  HUR: 'h',
  DAY: 'd',
  WEE: 'wk',
  '2Z': 'mv',
  VLT: 'v',
  KVT: 'kv',
  '4K': 'ma',
  AMP: 'a',
  E09: 'mah',
  AMH: 'ah',
  HTZ: 'hz',
  KHZ: 'khz',
  MHZ: 'mhz',
  A86: 'ghz',
  '2N': 'db',
  PAL: 'pa',
  KPA: 'kpa',
  MBR: 'mbar',
  BAR: 'bar',
  PS: 'psi',
  P1: '%',
};

const byName = new Map<string, string[]>();
for (const [code, unit] of Object.entries(units))
  for (const name of new Set([
    code,
    ucumCode(code).toLowerCase(),
    ...(unit.label ? [unit.label.toLowerCase()] : []),
    ...(unit.names ?? []),
  ]))
    byName.set(name, [...(byName.get(name) ?? []), code]);

/**
 * The code of a unit as somebody wrote it ("Liter", "W", "″", "KGM"), or undefined. Where a sign stands for several, the one of
 * the dimension is meant, else the first.
 */
export function unitCode(written: string, dimension?: Dimension): string | undefined {
  const text = written.trim().replace(/\s+/g, ' ');
  const official = Object.hasOwn(recommended20, text) ? recommended20[text] : undefined;
  const small = text.toLowerCase().replace(/[\u2082]/g, '2');
  const found = byName.get(small) ?? byName.get(small.replace(/\.$/, '')) ?? (official ? [official] : undefined);
  if (!found) return undefined;
  return found.find((code) => units[code]?.dimension === dimension) ?? official ?? found[0];
}

/** What a dimension is called. */
export const dimensionWords: Record<Dimension, string> = {
  length: 'length',
  area: 'area',
  volume: 'volume',
  mass: 'weight',
  power: 'power',
  energy: 'energy',
  luminousFlux: 'amount of light',
  illuminance: 'brightness',
  temperature: 'temperature',
  time: 'time',
  voltage: 'voltage',
  current: 'current',
  charge: 'charge',
  frequency: 'frequency',
  soundLevel: 'sound level',
  pressure: 'pressure',
  ratio: 'share',
};
