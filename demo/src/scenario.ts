/** Mosswick Supply: who it is, what it sells, whom it buys from, and how its Orrivane account is set up. All invented. */
import type { Condition } from '@velvet-shelf/core/conditions';
import type { Fill } from '@velvet-shelf/core/fills';
import { baseDictionary, computedAttributes, linkingAttributes } from '@velvet-shelf/core/catalog';
import type { Attribute } from '@velvet-shelf/core/values';

export const company = {
  name: 'Mosswick Supply',
  market: 'GB',
  languages: ['en-GB', 'de-DE', 'sv-SE'],
  currencies: ['GBP', 'EUR', 'SEK'],
  timeZone: 'Europe/London',
};

export const users = [
  { email: 'iris@mosswick.example', name: 'Iris Ravensbourne', role: 'owner', password: 'shelf-demo' },
  { email: 'viewer@mosswick.example', name: 'Vic Lantern', role: 'viewer', password: 'shelf-demo' },
] as const;

const tree: Record<string, string[]> = {
  Planters: ['Indoor pots', 'Hanging planters', 'Self-watering planters', 'Saucers & trays'],
  Lighting: ['Grow lamps', 'Light bars', 'Timers & sockets'],
  'Growing media': ['Potting mixes', 'Clay pebbles', 'Fertilisers'],
  Watering: ['Cans', 'Misters', 'Irrigation kits'],
  Tools: ['Hand tools', 'Pruners', 'Gloves', 'Aprons'],
  Furniture: ['Plant stands', 'Shelves', 'Trolleys'],
  Seeds: ['Herbs', 'Salad leaves', 'Flowers', 'Microgreens'],
  Care: ['Sensors & meters', 'Pest care', 'Leaf care'],
  Gifts: ['Starter sets', 'Seed assortments'],
};

/** The own tree, parents first. A key is what refers to it; here it reads like where it stood at first. */
export const categories: { key: string; name: string; parent: string | null }[] = Object.entries(tree).flatMap(
  ([root, leaves]) => [
    { key: root, name: root, parent: null },
    ...leaves.map((leaf) => ({ key: `${root}/${leaf}`, name: leaf, parent: root })),
  ],
);

const variant = { many: false, perLanguage: false, level: 'variant' } as const;
const family = { many: false, perLanguage: false, level: 'family' } as const;

const months = 'January February March April May June July August September October November December'.split(' ');

/** What this trade needs beyond the attributes every catalogue has. */
const own: Attribute[] = [
  { ...variant, key: 'glaze', aliases: ['Glasur', 'Glasyr'], label: 'Glaze', type: 'text', group: 'Looks' },
  {
    ...variant,
    key: 'finish',
    aliases: ['Oberfläche', 'Ytbehandling', 'Ytfinish'],
    label: 'Finish',
    type: 'text',
    group: 'Looks',
  },
  {
    ...variant,
    key: 'diameter',
    role: 'diameter',
    label: 'Diameter',
    type: 'measure',
    dimension: 'length',
    group: 'Sizes',
  },
  { ...variant, key: 'height', role: 'height', label: 'Height', type: 'measure', dimension: 'length', group: 'Sizes' },
  { ...variant, key: 'length', role: 'length', label: 'Length', type: 'measure', dimension: 'length', group: 'Sizes' },
  { ...variant, key: 'volume', role: 'volume', label: 'Volume', type: 'measure', dimension: 'volume', group: 'Sizes' },
  { ...variant, key: 'size', role: 'size', label: 'Size', type: 'text', group: 'Sizes' },
  { ...variant, key: 'packet', label: 'Packet', type: 'text', group: 'Sizes' },
  { ...variant, key: 'power', role: 'power', label: 'Power', type: 'measure', dimension: 'power', group: 'Light' },
  {
    ...variant,
    key: 'luminousFlux',
    aliases: ['Light', 'Lumen', 'Lichtstrom', 'Ljusflöde'],
    label: 'Luminous flux',
    type: 'measure',
    dimension: 'luminousFlux',
    group: 'Light',
  },
  {
    ...variant,
    key: 'colourTemperature',
    aliases: ['Colour temp', 'Color temperature', 'Farbtemperatur', 'Lichtfarbe', 'Färgtemperatur'],
    label: 'Colour temperature',
    type: 'measure',
    dimension: 'temperature',
    group: 'Light',
  },
  {
    ...variant,
    key: 'cable',
    aliases: ['Cable', 'Kabel', 'Kabellänge', 'Kabellängd'],
    label: 'Cable length',
    type: 'measure',
    dimension: 'length',
    group: 'Light',
  },
  {
    ...variant,
    key: 'plug',
    aliases: ['Plug type', 'Stecker', 'Steckertyp', 'Stickpropp', 'Kontakt'],
    label: 'Plug',
    type: 'text',
    group: 'Light',
  },
  {
    ...variant,
    key: 'energyClass',
    role: 'energyClass',
    label: 'Energy class',
    type: 'choice',
    choices: ['A', 'B', 'C', 'D', 'E', 'F', 'G'],
    group: 'Light',
  },
  {
    ...variant,
    key: 'frostProof',
    aliases: ['Frostfest', 'Winterfest', 'Frosttålig'],
    label: 'Frost-proof',
    type: 'boolean',
    group: 'Use',
  },
  {
    ...variant,
    key: 'drainageHole',
    aliases: ['Ablaufloch', 'Dräneringshål'],
    label: 'Drainage hole',
    type: 'boolean',
    group: 'Use',
  },
  {
    ...variant,
    key: 'handmade',
    aliases: ['Handarbeit', 'Handgjord'],
    label: 'Handmade',
    type: 'boolean',
    group: 'Use',
  },
  {
    ...variant,
    key: 'madeWhen',
    aliases: ['Made', 'Year made', 'Baujahr', 'Tillverkningsår'],
    label: 'Made when',
    type: 'number',
    group: 'Use',
  },
  { ...family, key: 'care', aliases: ['Pflegehinweis'], role: 'care', label: 'Care', type: 'text', group: 'Use' },
  {
    ...family,
    key: 'botanicalName',
    aliases: ['Botanical', 'Botanisch', 'Botanischer Name', 'Botaniskt namn', 'Latinskt namn'],
    label: 'Botanical name',
    type: 'text',
    group: 'Seeds',
  },
  {
    ...variant,
    key: 'seeds',
    aliases: ['Seeds', 'Number of seeds', 'Körner', 'Samen', 'Frön', 'Antal frön'],
    label: 'Seeds in a packet',
    type: 'number',
    group: 'Seeds',
  },
  {
    ...family,
    many: true,
    key: 'sowingMonths',
    aliases: ['Sow', 'Sowing', 'Aussaat', 'Sås', 'Sådd'],
    label: 'Sowing months',
    type: 'choice',
    choices: months,
    group: 'Seeds',
  },
  {
    ...family,
    key: 'germination',
    aliases: ['Keimdauer', 'Keimung', 'Groningstid'],
    label: 'Germination',
    type: 'text',
    group: 'Seeds',
  },
  { ...family, key: 'ph', aliases: ['pH-Wert', 'pH-värde'], label: 'pH', type: 'text', group: 'Growing' },
  {
    ...family,
    key: 'composition',
    aliases: ['Zusammensetzung', 'Sammansättning'],
    label: 'Composition',
    type: 'text',
    group: 'Growing',
  },
  {
    ...family,
    key: 'safetySheet',
    aliases: ['Safety data sheet', 'Sicherheitsdatenblatt', 'Säkerhetsdatablad'],
    label: 'Safety sheet',
    type: 'file',
    group: 'Growing',
  },
];

export const dictionary: Attribute[] = [...baseDictionary, ...own, ...linkingAttributes, ...computedAttributes];

export const suppliers = [
  { key: 'mosswick', name: 'Mosswick own sheet', rank: 1, kind: 'own', language: 'en-GB' },
  { key: 'brackwater', name: 'Brackwater Pottery', rank: 2, kind: 'supplier', language: 'de-DE' },
  { key: 'lumenloam', name: 'Lumenloam Lighting', rank: 3, kind: 'supplier', language: 'en-GB' },
  { key: 'kestrelgate', name: 'Kestrelgate Seeds', rank: 4, kind: 'supplier', language: 'en-GB' },
  { key: 'windowsill', name: 'Windowsill shop', rank: 5, kind: 'supplier', language: 'en-GB' },
] as const;

/** Everything that is not withdrawn or paused. */
export const assortment: Condition = {
  not: {
    any: [
      { attribute: 'state', op: 'is', value: 'withdrawn' },
      { attribute: 'state', op: 'is', value: 'paused' },
    ],
  },
};

/** Own category → Orrivane's. Some are left open on purpose, one goes to a branch. */
export const categoryMaps: Record<string, string> = {
  'Planters/Indoor pots': 'plants-growing/pots-planters/indoor-pots',
  'Planters/Saucers & trays': 'plants-growing/pots-planters/saucers-drip-trays',
  'Planters/Self-watering planters': 'plants-growing/pots-planters',
  'Lighting/Grow lamps': 'lighting/plant-lighting/grow-lamps',
  'Lighting/Light bars': 'lighting/plant-lighting/grow-light-bars',
  'Growing media/Potting mixes': 'plants-growing/growing-media/potting-compost',
  'Growing media/Clay pebbles': 'plants-growing/growing-media/clay-pebbles-drainage',
  'Watering/Cans': 'plants-growing/watering/watering-cans',
  'Tools/Gloves': 'tools-workwear/workwear/gardening-gloves',
  'Furniture/Plant stands': 'furniture/display/plant-stands',
  'Seeds/Salad leaves': 'plants-growing/seeds/salad-leaf-seeds',
};

const copy = (from: string): Fill => ({ rule: { kind: 'copy', from }, fit: [] });

/** The channel's shades of our colours; some are left to be translated. */
const shades: Record<string, string> = {
  Moss: 'moss',
  Chalk: 'chalk',
  Slate: 'slate',
  White: 'chalk',
  Soot: 'soot',
  Terracotta: 'brick',
  Rust: 'rust',
  Ink: 'ink',
  Black: 'soot',
  'Brass look': 'brass',
  Ochre: 'straw',
  Plum: 'plum',
  Anodised: 'mist',
};

const plain = (from: string): Fill => ({ rule: { kind: 'copy', from }, fit: [{ do: 'plain-text' }] });

export const fills: Record<string, Fill> = {
  leavesIn: {
    rule: {
      kind: 'when',
      cases: [{ if: { attribute: 'stock', op: 'atLeast', value: '1' }, then: { kind: 'fixed', value: '0' } }],
      otherwise: null,
    },
    fit: [],
  },
  asks: copy('asking'),
  askedBefore: copy('askedBefore'),
  until: copy('saleEnd'),
  own: copy('sku'),
  gtin: copy('gtin'),
  makerNumber: copy('mpn'),
  maker: copy('brand'),
  kin: copy('familyId'),
  differsShade: { rule: { kind: 'translate', from: 'colour', table: shades, otherwise: 'keep' }, fit: [] },
  differsSize: {
    rule: {
      kind: 'first',
      of: [
        { kind: 'copy', from: 'size' },
        { kind: 'copy', from: 'packet' },
        { kind: 'copy', from: 'diameter' },
        { kind: 'copy', from: 'length' },
        { kind: 'copy', from: 'volume' },
        { kind: 'copy', from: 'height' },
      ],
    },
    fit: [],
  },
  differsLight: copy('colourTemperature'),
  differsPlug: { rule: { kind: 'compose', parts: [{ from: 'plug', after: ' plug' }] }, fit: [] },
  view: copy('mainPicture'),
  moreViews: copy('morePictures'),
  short: plain('title'),
  long: plain('description'),
  factStuff: copy('material'),
  factEnergy: copy('energyClass'),
  factKept: copy('category'),
  page: copy('page'),
  parcel: { rule: { kind: 'copy', from: 'weight' }, fit: [{ do: 'in-unit', unit: 'g', whole: true }] },
};
