/** Suggests what each column is, from its name and its values, each with a reason and a score. */
import {
  type Attribute,
  foldCode,
  foldText,
  parseValue,
  plainStyle,
  readGtin,
  unitCode,
  units,
} from '../values/index.js';
import type { ColumnMap, ColumnTarget } from './mapping.js';

export interface Suggestion {
  column: string;
  target: ColumnTarget;
  /** 0–100: how sure. */
  score: number;
  why: string;
}

type Word = [
  words: string,
  target: ColumnTarget | { to: 'attribute'; attribute: string; values?: Record<string, string> },
];

const stateWords = {
  lieferbar: 'selling',
  neu: 'selling',
  entfällt: 'withdrawn',
  'on sale': 'selling',
  new: 'selling',
  withdrawn: 'withdrawn',
  selling: 'selling',
  paused: 'paused',
  available: 'selling',
  auslaufend: 'selling',
};

const attribute = (key: string, values?: Record<string, string>) =>
  ({ to: 'attribute', attribute: key, ...(values ? { values } : {}) }) as const;

/** Column names of the trade in English, German and Swedish, folded; the first match wins. */
const vocabulary: Word[] = [
  ['sku|artikelnummer|artikelnr|article number|item number|item no|artnr|art nr|code', { to: 'key' }],
  ['family|serie|series|range|produktfamilie|group id|familj', { to: 'family' }],
  ['options|optionen|alternativ', { to: 'options' }],
  ['title|bezeichnung|name|product name|titel|benamning|produktname', attribute('title')],
  ['description|beschreibung|beskrivning|text', attribute('description')],
  ['our category', attribute('category')],
  ['category|warengruppe|kategorie|kategori', attribute('category')],
  ['brand|marke|varumarke|make', attribute('brand')],
  ['mpn|hersteller nr|herstellernummer|manufacturer part number|part number|tillverkarens nr', attribute('mpn')],
  ['gtin|ean|barcode|ean code|strichcode|upc', attribute('gtin')],
  ['bought from|supplier|lieferant', { to: 'boughtFrom' }],
  ['their number|supplier number|lieferantennummer', { to: 'theirNumber' }],
  ['sale starts|sale from|angebot ab', { to: 'saleFrom' }],
  ['sale ends|sale to|angebot bis', { to: 'saleTo' }],
  ['stock|bestand|lager|lagersaldo|lagerbestand', { to: 'stock' }],
  ['state|status|zustand', attribute('state', stateWords)],
  ['page|url|link|seite', attribute('page')],
  ['more pictures|more images|weitere bilder|fler bilder', attribute('morePictures')],
  ['picture|image|bild|pictures|bilder', attribute('pictures')],
  ['colour|color|farbe|farg', attribute('colour')],
  ['glaze|glasur', attribute('glaze')],
  ['material', attribute('material')],
  ['weight|gewicht|vikt', attribute('weight')],
  ['diameter|durchmesser', attribute('diameter')],
  ['height|hohe|hojd', attribute('height')],
  ['length|lange|langd', attribute('length')],
  ['volume|volumen|volym|inhalt', attribute('volume')],
  ['power|leistung|effekt|wattage', attribute('power')],
  ['light|lichtstrom|luminous flux|ljusflode', attribute('luminousFlux')],
  ['colour temp|colour temperature|farbtemperatur', attribute('colourTemperature')],
  ['cable|kabel|kabellange', attribute('cable')],
  ['plug|stecker', attribute('plug')],
  ['energy class|energieklasse|energiklass', attribute('energyClass')],
  ['frost proof|frostfest', attribute('frostProof')],
  ['drainage hole|ablaufloch', attribute('drainageHole')],
  ['handmade|handarbeit', attribute('handmade')],
  ['made|baujahr|made when', attribute('madeWhen')],
  ['botanical name|botanisch', attribute('botanicalName')],
  ['seeds', attribute('seeds')],
  ['sow|aussaat', attribute('sowingMonths')],
  ['germination|keimdauer', attribute('germination')],
  ['ph', attribute('ph')],
  ['composition|zusammensetzung', attribute('composition')],
  ['care|pflege|skotsel', attribute('care')],
  ['safety sheet|sicherheitsdatenblatt', attribute('safetySheet')],
  ['cost|ek netto|netto|purchase price|einkaufspreis', attribute('purchasePrice')],
  ['uvp|rrp|recommended price', attribute('recommendedPrice')],
];

const currencies = /\b(GBP|EUR|SEK|USD|DKK|NOK|CHF|PLN)\b/i;
const languages = /\b([a-z]{2}-[A-Z]{2})\b/;

/**
 * @param columns names as the header has them
 * @param sample the first rows, each as long as `columns`
 * @param remembered the mapping last confirmed for this supplier, if any
 * @param homeLanguage language of texts whose column names none
 */
export function suggestColumns(
  columns: readonly string[],
  sample: readonly string[][],
  dictionary: ReadonlyMap<string, Attribute>,
  remembered: ColumnMap | undefined,
  homeLanguage: string,
): Suggestion[] {
  const earlier = new Map(remembered?.map(({ column, target }) => [foldText(column), target]));
  const taken = new Set<string>();
  return columns.map((column, i) => {
    const known = earlier.get(foldText(column));
    const values = sample.map((row) => (row[i] ?? '').trim()).filter((value) => value !== '');
    const found: Suggestion = known
      ? { column, target: known, score: 100, why: 'as confirmed for this supplier before' }
      : (byName(column, dictionary, homeLanguage) ?? byValues(column, values, dictionary));
    const mark = JSON.stringify({ ...found.target, values: undefined });
    if (found.target.to !== 'ignore' && taken.has(mark))
      return {
        column,
        target: { to: 'ignore' },
        score: 30,
        why: 'another column already fills what its name suggests',
      };
    taken.add(mark);
    return found;
  });
}

function byName(
  column: string,
  dictionary: ReadonlyMap<string, Attribute>,
  homeLanguage: string,
): Suggestion | undefined {
  const currency = currencies.exec(column)?.[1]?.toUpperCase();
  const language = languages.exec(column)?.[1];
  const unit = unitCode(/[[(]([^\])]+)[\])]/.exec(column)?.[1] ?? '');
  const name = foldText(
    column
      .replace(/[[(][^\])]*[\])]/g, '')
      .replace(currencies, '')
      .replace(languages, ''),
  )
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
  if (currency && /^(price|preis|pris)$/.test(name))
    return {
      column,
      target: { to: 'price', kind: 'regular', currency },
      score: 96,
      why: `“price” with ${currency} in its name`,
    };
  if (currency && /^(sale|sale price|angebot|angebotspreis)$/.test(name))
    return {
      column,
      target: { to: 'price', kind: 'sale', currency },
      score: 95,
      why: `“sale” with ${currency} in its name`,
    };
  for (const [words, target] of vocabulary) {
    const exact = words.split('|').includes(name);
    if (!exact) continue;
    if (target.to !== 'attribute')
      return { column, target, score: 94, why: `its name is a word for ${sayTarget(target)}` };
    const definition = dictionary.get(target.attribute);
    if (!definition) continue;
    return {
      column,
      target: dress(target, definition, { unit, currency, language: language ?? homeLanguage }),
      score: 94,
      why: `its name is a word for ${definition.label}`,
    };
  }
  for (const definition of dictionary.values())
    if (foldCode(definition.label) === foldCode(name) || foldCode(definition.key) === foldCode(name))
      return {
        column,
        target: dress(attribute(definition.key), definition, { unit, currency, language: language ?? homeLanguage }),
        score: 92,
        why: `the attribute ${definition.label} has this name`,
      };
  return undefined;
}

function dress(
  target: { to: 'attribute'; attribute: string; values?: Record<string, string> },
  definition: Attribute,
  { unit, currency, language }: { unit: string | undefined; currency: string | undefined; language: string },
): ColumnTarget {
  return {
    ...target,
    ...(definition.perLanguage ? { language } : {}),
    ...(unit && definition.type === 'measure' ? { unit } : {}),
    ...(currency && definition.type === 'money' ? { currency } : {}),
  };
}

/** A column whose name says nothing: its values may. */
function byValues(column: string, values: string[], dictionary: ReadonlyMap<string, Attribute>): Suggestion {
  const share = (test: (value: string) => boolean) => values.filter(test).length / Math.max(1, values.length);
  if (values.length >= 3 && share((value) => readGtin(value).ok) > 0.8)
    return { column, target: attribute('gtin'), score: 80, why: 'most of its values are true GTINs' };
  const unit = unitCode(/[[(]([^\])]+)[\])]/.exec(column)?.[1] ?? '');
  const dimension = unit ? units[unit]?.dimension : undefined;
  const measures = [...dictionary.values()].filter((one) => one.type === 'measure' && one.dimension === dimension);
  const only = measures.length === 1 ? measures[0] : undefined;
  if (dimension && only && share((value) => parseValue(value, { ...plainStyle, decimal: ',', unit }, only).ok) > 0.8)
    return { column, target: { ...attribute(only.key), unit }, score: 60, why: `its unit fits only ${only.label}` };
  return { column, target: { to: 'ignore' }, score: 0, why: 'nothing in its name or values says what it is' };
}

/** A target in words, for reasons and lists. */
export function sayTarget(target: ColumnTarget): string {
  const words: Record<ColumnTarget['to'], string> = {
    ignore: 'nothing',
    key: 'the article number',
    family: 'the family',
    options: 'the options',
    attribute: 'an attribute',
    price: 'a price',
    saleFrom: 'the first day of a sale',
    saleTo: 'the last day of a sale',
    stock: 'the stock',
    boughtFrom: 'the supplier goods are bought from',
    theirNumber: 'the supplier’s article number',
  };
  return words[target.to];
}
