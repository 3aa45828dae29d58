/** Headers as suppliers write them, in three languages, and what each is taken for by its name alone. */
import { testAttribute } from '../values/fixtures.js';
import { describe, expect, it } from 'vitest';
import type { Attribute } from '../values/index.js';
import { suggestColumns } from './index.js';

const measures = {
  weight: 'mass',
  diameter: 'length',
  height: 'length',
  length: 'length',
  cable: 'length',
  volume: 'volume',
  power: 'power',
  luminousFlux: 'luminousFlux',
  colourTemperature: 'temperature',
} as const;
const plain =
  'brand mpn gtin colour glaze finish material size plug energyClass botanicalName germination page care'.split(' ');
const attribute = (row: Partial<Attribute> & Pick<Attribute, 'key'>): [string, Attribute] => [
  row.key,
  testAttribute(row),
];
const dictionary = new Map<string, Attribute>([
  attribute({ key: 'title', perLanguage: true }),
  attribute({ key: 'description', type: 'richText', perLanguage: true }),
  attribute({ key: 'category', type: 'choice', choices: ['Planters/Indoor pots'] }),
  attribute({ key: 'state', type: 'choice', choices: ['selling', 'paused', 'withdrawn'] }),
  attribute({ key: 'purchasePrice', type: 'money' }),
  attribute({ key: 'recommendedPrice', type: 'money' }),
  attribute({ key: 'seeds', type: 'number' }),
  attribute({ key: 'pictures', type: 'media', many: true }),
  attribute({ key: 'frostProof', type: 'boolean' }),
  attribute({ key: 'handmade', type: 'boolean' }),
  ...plain.map((key) => attribute({ key })),
  ...Object.entries(measures).map(([key, dimension]) => attribute({ key, type: 'measure', dimension })),
]);
/** Words of one trade are the company's own: other names of its attributes. */
const aliases: Record<string, string[]> = {
  glaze: ['Glasur', 'Glasyr'],
  finish: ['Oberfläche'],
  luminousFlux: ['Lichtstrom', 'Ljusflöde'],
  colourTemperature: ['Farbtemperatur', 'Färgtemperatur'],
  cable: ['Kabellänge', 'Kabellängd'],
  plug: ['Steckertyp'],
  frostProof: ['Frostfest', 'Frosttålig'],
  handmade: ['Handarbeit'],
  germination: ['Keimdauer'],
  seeds: ['Number of seeds', 'Antal frön'],
};
for (const [key, names] of Object.entries(aliases)) {
  const known = dictionary.get(key);
  if (known) dictionary.set(key, { ...known, aliases: names });
}

/** What a lone column of this name becomes, as a word: the attribute, or the other target. */
function taken(header: string, cells: string[] = ['']): string {
  const [found] = suggestColumns({
    columns: [header],
    sample: cells.map((cell) => [cell]),
    dictionary,
    language: 'en-GB',
    languages: ['en-GB', 'de-DE', 'sv-SE'],
    isOwn: true,
  });
  const target = found?.target;
  if (!target) return 'no suggestion';
  return target.to === 'attribute' ? target.attribute : target.to;
}

describe('a header is taken for', () => {
  it.each([
    // English
    ['SKU', 'key'],
    ['Art. no.', 'key'],
    ['ITEM NUMBER', 'key'],
    ['Product name', 'title'],
    ['Long text', 'description'],
    ['Manufacturer', 'brand'],
    ['Part number', 'mpn'],
    ['EAN', 'gtin'],
    ['Barcode', 'gtin'],
    ['Colour', 'colour'],
    ['color', 'colour'],
    ['Weight [g]', 'weight'],
    ['Weight (kg)', 'weight'],
    ['Height in cm', 'height'],
    ['Height cm', 'height'],
    ['Height_mm', 'height'],
    ['Made in', 'ignore'],
    ['Kruka höjd', 'ignore'],
    ['Power [W]', 'power'],
    ['Capacity', 'volume'],
    ['Energy class', 'energyClass'],
    ['On hand', 'stock'],
    ['Qty.', 'stock'],
    ['Product URL', 'page'],
    ['Image', 'pictures'],
    ['Parent SKU', 'family'],
    ['Sale starts', 'saleFrom'],
    ['Sale ends', 'saleTo'],
    ['Botanical name', 'botanicalName'],
    ['Number of seeds', 'seeds'],
    // German
    ['Artikelnummer', 'key'],
    ['Artikel-Nr.', 'key'],
    ['Bestellnummer', 'key'],
    ['Bezeichnung', 'title'],
    ['Artikelbezeichnung', 'title'],
    ['Beschreibung', 'description'],
    ['Marke', 'brand'],
    ['Hersteller-Nr.', 'mpn'],
    ['EAN-Code', 'gtin'],
    ['Strichcode', 'gtin'],
    ['Farbe', 'colour'],
    ['Glasur', 'glaze'],
    ['Oberfläche', 'finish'],
    ['Größe', 'size'],
    ['GROESSE', 'size'],
    ['Gewicht (kg)', 'weight'],
    ['Durchmesser (cm)', 'diameter'],
    ['Höhe [cm]', 'height'],
    ['Hoehe', 'height'],
    ['Länge', 'length'],
    ['Inhalt (l)', 'volume'],
    ['Leistung [W]', 'power'],
    ['Nennleistung', 'power'],
    ['Lichtstrom (lm)', 'luminousFlux'],
    ['Farbtemperatur', 'colourTemperature'],
    ['Kabellänge', 'cable'],
    ['Steckertyp', 'plug'],
    ['Energieeffizienzklasse', 'energyClass'],
    ['Lagerbestand', 'stock'],
    ['Bestand', 'stock'],
    ['Warengruppe', 'category'],
    ['Serie', 'family'],
    ['Bild', 'pictures'],
    ['Frostfest', 'frostProof'],
    ['Handarbeit', 'handmade'],
    ['Keimdauer', 'germination'],
    // Swedish
    ['Artnr', 'key'],
    ['Art.nr', 'key'],
    ['Benämning', 'title'],
    ['Produktnamn', 'title'],
    ['Beskrivning', 'description'],
    ['Varumärke', 'brand'],
    ['Streckkod', 'gtin'],
    ['Färg', 'colour'],
    ['Glasyr', 'glaze'],
    ['Storlek', 'size'],
    ['Vikt (g)', 'weight'],
    ['Höjd', 'height'],
    ['Längd (cm)', 'length'],
    ['Volym', 'volume'],
    ['Effekt (W)', 'power'],
    ['Ljusflöde', 'luminousFlux'],
    ['Färgtemperatur', 'colourTemperature'],
    ['Kabellängd', 'cable'],
    ['Lagersaldo', 'stock'],
    ['Antal frön', 'seeds'],
    ['Kategori', 'category'],
    ['Bilder', 'pictures'],
    ['Frosttålig', 'frostProof'],
  ])('%s → %s', (header, target) => expect(taken(header)).toBe(target));

  it.each([
    ['Price GBP', 'price'],
    ['Price (EUR)', 'price'],
    ['Preis', 'price'],
    ['UVP (EUR)', 'recommendedPrice'],
    ['Netto EUR', 'purchasePrice'],
    ['VK brutto', 'price'],
    ['Pris SEK', 'price'],
    ['Sale price', 'price'],
  ])('%s, among prices', (header, target) => expect(taken(header, ['12.50', '9.00'])).toBe(target));

  it.each(['Remark', 'Interne Notiz', 'x', 'Lagerplatz', 'Updated by'])('%s: nothing', (header) =>
    expect(taken(header, ['abc', 'def'])).toBe('ignore'),
  );
});

describe('the language of a text', () => {
  const language = (header: string, cells: string[]) => {
    const [found] = suggestColumns({
      columns: [header],
      sample: cells.map((cell) => [cell]),
      dictionary,
      language: 'en-GB',
      languages: ['en-GB', 'de-DE', 'sv-SE'],
    });
    return found?.target?.to === 'attribute' ? found.target.language : undefined;
  };

  it.each([
    ['Title de-DE', ['Topf'], 'de-DE'],
    ['Title (sv)', ['Kruka'], 'sv-SE'],
    ['title_de', ['Topf'], 'de-DE'],
    ['Description SV', ['Kruka'], 'sv-SE'],
    ['Bezeichnung', ['Topf mit Henkel'], 'de-DE'],
    ['Benämning', ['Kruka med fat'], 'sv-SE'],
    ['Title', ['Pot with a saucer'], 'en-GB'],
  ])('of “%s” is told', (header, cells, expected) => expect(language(header, cells)).toBe(expected));
});
