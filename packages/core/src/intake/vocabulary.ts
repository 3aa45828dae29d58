/** Column names of the trade in English, German and Swedish, folded, and what a column of that name most likely is. */
import { type Attribute, type Role, withRole } from '../values/index.js';
import type { ColumnTarget } from './mapping.js';

export type WordTarget =
  | Exclude<ColumnTarget, { to: 'attribute' | 'price' }>
  | { to: 'attribute'; attribute: string; values?: Record<string, string> };

const attribute = (key: string, values?: Record<string, string>): WordTarget => ({
  to: 'attribute',
  attribute: key,
  ...(values ? { values } : {}),
});

/** Words for whether goods are sold. */
const stateWords = {
  lieferbar: 'selling',
  neu: 'selling',
  auslaufend: 'selling',
  entfällt: 'withdrawn',
  'on sale': 'selling',
  new: 'selling',
  current: 'selling',
  selling: 'selling',
  available: 'selling',
  // schema.org/ItemAvailability
  'in stock': 'selling',
  'in store only': 'selling',
  'online only': 'selling',
  'limited availability': 'selling',
  'out of stock': 'selling',
  'back order': 'selling',
  'pre order': 'selling',
  'pre sale': 'selling',
  'sold out': 'selling',
  reserved: 'selling',
  paused: 'paused',
  withdrawn: 'withdrawn',
  discontinued: 'withdrawn',
  utgått: 'withdrawn',
  lagervara: 'selling',
};

/** Target, then words in English, German and Swedish, parted by bars; words of schema.org count as English. */
const table: [target: WordTarget, en: string, de: string, sv: string][] = [
  [
    { to: 'key' },
    'sku|article|article number|article no|art no|item number|item no|code|supplier number|product id',
    'artikelnummer|artikelnr|artikel nr|bestellnummer',
    'artnr|art nr',
  ],
  [
    { to: 'family' },
    'family|series|range|group id|parent id|parent sku|productgroupid',
    'serie|produktfamilie|baureihe',
    'familj|produktserie',
  ],
  [{ to: 'options' }, 'options|axes', 'optionen', 'alternativ'],
  [
    attribute('title'),
    'title|name|product name|item name|model',
    'bezeichnung|produktname|artikelbezeichnung|modell',
    'titel|benamning|produktnamn',
  ],
  [attribute('description'), 'description|long text|text', 'beschreibung|artikeltext|langtext', 'beskrivning'],
  [
    attribute('category'),
    'category|our category|type|group|product group|shelf',
    'warengruppe|kategorie|produktgruppe',
    'kategori|varugrupp',
  ],
  [attribute('brand'), 'brand|make|maker|manufacturer', 'marke', 'marke|varumarke'],
  [
    attribute('mpn'),
    'mpn|manufacturer part number|part number',
    'hersteller nr|herstellernummer|hersteller artikelnummer',
    'tillverkarens nr|tillverkarens artikelnummer',
  ],
  [attribute('gtin'), 'gtin|ean|barcode|upc|gtin8|gtin12|gtin13|gtin14', 'ean code|strichcode', 'streckkod'],
  [{ to: 'boughtFrom' }, 'bought from|supplier', 'lieferant', 'leverantor'],
  [
    { to: 'theirNumber' },
    'their number|supplier number',
    'lieferantennummer|lieferanten artikelnummer',
    'leverantorens artnr',
  ],
  [{ to: 'saleFrom' }, 'sale starts|sale from', 'angebot ab|aktion von', 'rea fran'],
  [{ to: 'saleTo' }, 'sale ends|sale to', 'angebot bis|aktion bis', 'rea till'],
  [
    { to: 'stock' },
    'stock|quantity|on hand|on shelf|qty',
    'bestand|lagerbestand|menge',
    'lager|lagersaldo|saldo|antal',
  ],
  [attribute('state', stateWords), 'state|status|availability', 'zustand|lieferstatus', 'tillganglighet'],
  [attribute('page'), 'page|url|link|product url', 'seite', 'lank|sida'],
  [attribute('morePictures'), 'more pictures|more images|additional image', 'weitere bilder', 'fler bilder'],
  [attribute('pictures'), 'picture|image|pictures|images|photo', 'bild|bilder|foto', 'bild|bilder|foto'],
  [attribute('colour'), 'colour|color', 'farbe', 'farg'],
  [attribute('glaze'), 'glaze', 'glasur', 'glasyr'],
  [attribute('finish'), 'finish', 'oberflache', 'ytbehandling|ytfinish'],
  [attribute('material'), 'material', 'werkstoff', ''],
  [attribute('size'), 'size', 'grosse|groesse', 'storlek'],
  [attribute('weight'), 'weight', 'gewicht', 'vikt'],
  [attribute('diameter'), 'diameter', 'durchmesser', ''],
  [attribute('height'), 'height', 'hohe|hoehe', 'hojd'],
  [attribute('length'), 'length|depth', 'lange|laenge', 'langd'],
  [attribute('volume'), 'volume|capacity', 'volumen|inhalt', 'volym|innehall'],
  [attribute('power'), 'power|wattage|max power', 'leistung|max leistung|nennleistung', 'effekt'],
  [attribute('luminousFlux'), 'light|luminous flux|lumen', 'lichtstrom', 'ljusflode'],
  [
    attribute('colourTemperature'),
    'colour temp|colour temperature|color temperature',
    'farbtemperatur|lichtfarbe',
    'fargtemperatur',
  ],
  [attribute('cable'), 'cable|cable length', 'kabel|kabellange', 'kabellangd'],
  [attribute('plug'), 'plug|plug type', 'stecker|steckertyp', 'stickpropp|kontakt'],
  [attribute('energyClass'), 'energy class', 'energieklasse|energieeffizienzklasse', 'energiklass'],
  [attribute('frostProof'), 'frost proof', 'frostfest|winterfest', 'frosttalig'],
  [attribute('drainageHole'), 'drainage hole', 'ablaufloch', 'draneringshal'],
  [attribute('handmade'), 'handmade', 'handarbeit', 'handgjord'],
  [attribute('madeWhen'), 'made|made when|year made', 'baujahr', 'tillverkningsar'],
  [
    attribute('botanicalName'),
    'botanical name|botanical',
    'botanisch|botanischer name',
    'botaniskt namn|latinskt namn',
  ],
  [attribute('seeds'), 'seeds|number of seeds', 'korner|samen', 'fron|antal fron'],
  [attribute('sowingMonths'), 'sow|sowing|sowing months', 'aussaat', 'sas|sadd'],
  [attribute('germination'), 'germination', 'keimdauer|keimung', 'groningstid'],
  [attribute('ph'), 'ph', 'ph wert', 'ph varde'],
  [attribute('composition'), 'composition', 'zusammensetzung', 'sammansattning'],
  [attribute('care'), 'care|care instructions', 'pflege|pflegehinweis', 'skotsel|skotselrad'],
  [attribute('safetySheet'), 'safety sheet|safety data sheet', 'sicherheitsdatenblatt', 'sakerhetsdatablad'],
  [
    attribute('purchasePrice'),
    'cost|purchase price|net price|trade price|net',
    'ek netto|netto|einkaufspreis|nettopreis|ek',
    'inkopspris|nettopris',
  ],
  [
    attribute('recommendedPrice'),
    'rrp|recommended price|retail price|msrp|selling price',
    'uvp|empfohlener preis|verkaufspreis|vk|vk brutto',
    'rekpris|rek pris|cirkapris|utpris|forsaljningspris',
  ],
];

/** Languages whose words are known here, by their first half (BCP 47). */
export type Language = 'en' | 'de' | 'sv';

export interface Word {
  target: WordTarget;
  /** Undefined where the word is one in several languages. */
  language: Language | undefined;
}

/** The attribute a word is about: by its role, or of the very key. */
export const attributeOf = (name: string, dictionary: ReadonlyMap<string, Attribute>): Attribute | undefined =>
  withRole(dictionary, name as Role)[0] ?? dictionary.get(name);

/** By folded word. */
export const vocabulary: ReadonlyMap<string, Word> = new Map(collect());

function* collect(): Generator<[string, Word]> {
  const seen = new Map<string, Word>();
  for (const [target, en, de, sv] of table)
    for (const [words, language] of [
      [en, 'en'],
      [de, 'de'],
      [sv, 'sv'],
    ] as const)
      for (const word of words.split('|').filter(Boolean)) {
        const known = seen.get(word);
        if (known) known.language = undefined;
        else seen.set(word, { target, language: word === 'text' || word === 'name' ? undefined : language });
      }
  yield* seen;
}

/** Everyday words that tell a language. */
const everyday: Record<Language, RegExp> = {
  en: /\b(?:the|and|with|for|from|of|is|to)\b/gi,
  de: /\b(?:der|die|das|und|mit|für|ist|nicht|aus|ein|eine|auf)\b/gi,
  sv: /\b(?:och|med|för|är|inte|av|ett|som|på|till)\b/gi,
};

/** The language of some texts, where one clearly leads. */
export function guessLanguage(texts: readonly string[]): Language | undefined {
  const sample = texts.slice(0, 60).join(' ');
  const ranked = (Object.keys(everyday) as Language[])
    .map((language) => [language, sample.match(everyday[language])?.length ?? 0] as const)
    .sort((a, b) => b[1] - a[1]);
  const [best, second] = ranked;
  return best && best[1] >= 5 && best[1] >= 2 * (second?.[1] ?? 0) ? best[0] : undefined;
}
