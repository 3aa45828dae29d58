/** Writes the two versions of Orrivane's rulebook (everything in them is invented): node packages/rulebooks/make-orrivane.mjs */
import { writeFileSync } from 'node:fs';

/** "Name: child, child (grandchild; grandchild)": a root with two levels below it. */
const tree = `
Plants & growing: Pots & planters (Indoor pots; Hanging pots; Self-watering pots; Saucers & drip trays; Window boxes; Cachepots; Terracotta pots; Planter stands), Seeds (Herb seeds; Salad & leaf seeds; Flower seeds; Microgreen & sprouting seeds; Vegetable seeds; Seed collections), Growing media (Potting compost; Clay pebbles & drainage; Bark & orchid mixes; Coir; Soil improvers), Plant food (Liquid feed; Granules; Slow release sticks), Watering (Watering cans; Misters & sprayers; Drip & irrigation kits; Watering globes; Hose fittings), Plant care (Leaf shine & cleaning; Pest traps; Soap sprays; Soil meters; Plant supports; Labels & markers), Propagation (Propagators; Seed trays; Heat mats; Dibbers)
Lighting: Plant lighting (Grow lamps; Grow light bars; Clip-on grow lights; Grow bulbs), Room lamps (Table lamps; Floor lamps; Clip lamps; Night lights), Ceiling & wall (Pendants; Ceiling lights; Wall lights; Spotlights), Light sources (Light bulbs; Light strips; Tubes), Lighting parts (Timers & plug sockets; Dimmers; Lampshades; Flexes & cable; Drivers)
Tools & workwear: Hand tools (Trowels & forks; Weeders; Rakes; Dibbers & planting tools; Tool sets), Cutting tools (Pruners & secateurs; Snips; Loppers; Shears), Workwear (Gardening gloves; Work aprons; Knee pads; Hats), Tool storage (Tool belts; Buckets & tubs; Tool racks)
Furniture: Display (Plant stands; Plant shelves; Plant trolleys; Étagères), Shelving (Wall shelves; Bookcases; Ladder shelves; Corner shelves), Tables (Side tables; Coffee tables; Desks; Console tables), Seating (Stools; Benches; Chairs), Storage (Cabinets; Chests; Baskets; Boxes)
Gifts: Gift sets (Growing sets; Tea sets; Tool gift sets; Seed gift sets), Cards & wrap (Cards; Wrap; Ribbons; Gift bags), Occasions (Housewarming; Birthdays; Thank you)
Home & decor: Vases (Glass vases; Ceramic vases; Bud vases), Candles (Pillar candles; Scented candles; Candle holders), Wall decor (Prints; Mirrors; Clocks; Hangings), Textiles (Cushions; Throws; Rugs; Curtains), Artificial plants (Artificial trees; Artificial stems; Artificial hanging plants)
Kitchen: Cookware (Pans; Casseroles; Baking tins; Roasting dishes), Tableware (Plates; Bowls; Mugs; Glasses; Jugs), Utensils (Knives; Spoons; Graters; Boards), Food storage (Jars; Tins; Bread bins), Herbs at home (Herb pots; Herb scissors; Sprouting jars)
Outdoor: Outdoor pots (Large planters; Troughs; Raised beds), Birds & wildlife (Feeders; Nest boxes; Bird baths; Insect houses), Garden structures (Arches; Trellis; Cold frames; Greenhouses), Outdoor lighting (Path lights; Lanterns; String lights), Outdoor living (Parasols; Fire bowls; Hammocks)
Household: Cleaning (Brushes; Cloths; Soaps; Dusters), Laundry (Airers; Pegs; Baskets for laundry), Bathroom (Soap dishes; Towels; Mats), Energy & power (Extension leads; Adaptors; Timers; Batteries), Climate (Thermometers; Hygrometers; Humidifiers; Fans)
Crafts: Pottery (Clay; Glazes; Potters' tools), Drawing (Pencils; Papers; Inks), Sewing (Threads; Needles; Fabrics), Candle making (Wicks; Waxes; Moulds), Floristry (Wire; Foam; Ribbon; Snips for floristry)
Food & drink: Pantry (Dried herbs; Spices; Teas; Honey), Growing to eat (Mushroom kits; Sprouting mixes)
Books & paper: Books (Gardening books; Cookery books; Craft books), Stationery (Notebooks; Calendars; Planners; Seed diaries)
Pets: Feeding (Bowls for pets; Feed bins), Beds (Beds for pets; Blankets for pets)
`;

const key = (name) =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

const words = {
  'Indoor pots': 'planter plant pot cachepot',
  'Hanging pots': 'hanging planter basket',
  'Self-watering pots': 'self-watering planter trough',
  'Saucers & drip trays': 'saucer tray',
  'Grow lamps': 'grow lamp plant light',
  'Grow light bars': 'light bar',
  'Timers & plug sockets': 'timer socket plug',
  'Potting compost': 'potting mix soil',
  'Clay pebbles & drainage': 'expanded clay pebbles',
  'Liquid feed': 'fertiliser feed',
  'Watering cans': 'watering can',
  'Misters & sprayers': 'mister sprayer',
  'Drip & irrigation kits': 'irrigation drip kit',
  'Trowels & forks': 'hand tool trowel fork',
  'Pruners & secateurs': 'pruner secateur',
  'Gardening gloves': 'glove',
  'Work aprons': 'apron',
  'Plant stands': 'plant stand',
  'Plant shelves': 'shelf',
  'Plant trolleys': 'trolley cart',
  'Soil meters': 'sensor meter moisture',
  'Soap sprays': 'pest soap spray',
  'Leaf shine & cleaning': 'leaf care shine',
  'Growing sets': 'starter set kit',
  'Seed gift sets': 'seed assortment collection',
  'Herb seeds': 'herb basil parsley',
  'Salad & leaf seeds': 'salad leaf lettuce',
  'Flower seeds': 'flower',
  'Microgreen & sprouting seeds': 'microgreen cress sprout',
};

const categories = [];
const add = (path, name) => categories.push({ path, name, ...(words[name] ? { words: words[name] } : {}) });
for (const line of tree.trim().split('\n')) {
  const [root, rest] = line.split(/: (.*)/s);
  add(key(root), root);
  for (const [, name, below] of rest.matchAll(/([^,(]+?)\s*\(([^)]*)\)(?:,\s*|$)/g)) {
    const middle = `${key(root)}/${key(name)}`;
    add(middle, name.trim());
    for (const leaf of below.split('; ')) add(`${middle}/${key(leaf)}`, leaf);
  }
}

/** Shades, and the nine names that what differs between items of one kin may have. */
const shades = [
  'ink',
  'soot',
  'slate',
  'mist',
  'chalk',
  'oat',
  'sand',
  'straw',
  'brass',
  'rust',
  'brick',
  'rose',
  'plum',
  'dusk',
  'sea',
  'moss',
  'fern',
  'lime',
  'see-through',
  'many',
];
const differences = [
  ['shade', 'Shade'],
  ['size', 'Size'],
  ['length', 'Length'],
  ['holds', 'What it holds'],
  ['light', 'Light'],
  ['plug', 'Plug'],
  ['count', 'Count'],
  ['stuff', 'What it is made of'],
  ['edition', 'Edition'],
];
const differsKey = (name) => `differs${name.charAt(0).toUpperCase()}${name.slice(1)}`;

const text = (key, label, need, limits = {}, help) => ({
  key,
  label,
  type: 'text',
  need,
  limits,
  ...(help ? { help } : {}),
});

const first = {
  channel: 'orrivane',
  name: 'Orrivane',
  version: '2026.1',
  validFrom: '2026-01-15',
  summary: 'Rules for goods found in search and held against each other.',
  itemPage: '/items/{number}',
  markets: [
    { key: 'GB', name: 'Great Britain', country: 'GB', language: 'en-GB', currency: 'GBP' },
    { key: 'IE', name: 'Ireland', country: 'IE', language: 'en-GB', currency: 'EUR' },
    { key: 'DE', name: 'Germany', country: 'DE', language: 'de-DE', currency: 'EUR' },
  ],
  categoryNeed: 'recommended',
  leafOnly: true,
  categories,
  attributes: [
    {
      key: 'leavesIn',
      label: 'Leaves in',
      type: 'number',
      need: 'optional',
      limits: { min: 0, max: 90 },
      help: 'Days until it leaves you; 0 is on hand. Left out where it is not to be had.',
    },
    { key: 'asks', label: 'Asks', type: 'money', need: 'required', limits: {}, help: 'With VAT.' },
    {
      key: 'askedBefore',
      label: 'Asked before',
      type: 'money',
      need: 'optional',
      limits: {},
      help: 'While it costs less than it did.',
    },
    text('until', 'Until', 'optional', { pattern: '^\\d{4}-\\d{2}-\\d{2}$' }, 'Last day it costs less.'),
    {
      key: 'grade',
      label: 'Grade',
      type: 'choice',
      need: 'optional',
      limits: { values: ['opened', 'mended', 'worn'] },
      help: 'Left out where it is sealed.',
    },
    text(
      'own',
      'Own code',
      'required',
      { maxLength: 36, pattern: '^[A-Za-z0-9.-]+$' },
      'Names the item; never changes. Letters, digits, points and hyphens.',
    ),
    { key: 'gtin', label: 'GTIN', type: 'gtin', need: 'optional', limits: {} },
    text('makerNumber', 'Maker’s number', 'optional', { maxLength: 48 }),
    text('maker', 'Maker', 'required', { maxLength: 64 }),
    text('kin', 'Kin', 'optional', { maxLength: 36 }, 'The same for all items that differ in the pairs below only.'),
    ...differences.map(([name, label]) =>
      name === 'shade'
        ? { key: differsKey(name), label, type: 'choice', need: 'optional', limits: { values: shades } }
        : text(differsKey(name), label, 'optional', { maxLength: 60 }),
    ),
    {
      key: 'view',
      label: 'First view',
      type: 'picture',
      need: 'required',
      limits: { minWidth: 720, minHeight: 720, maxCount: 1 },
    },
    { key: 'moreViews', label: 'Further views', type: 'picture', need: 'optional', limits: { maxCount: 7 } },
    text('short', 'Short wording', 'required', { minLength: 12, maxLength: 110 }, 'Best between 30 and 80 characters.'),
    text('long', 'Long wording', 'required', { minLength: 60, maxLength: 3200 }, 'No markup.'),
    text('factStuff', 'Made of', 'optional', { maxLength: 160 }),
    {
      key: 'factEnergy',
      label: 'Energy class',
      type: 'choice',
      need: 'recommended',
      limits: { values: ['A', 'B', 'C', 'D', 'E', 'F', 'G'] },
      categories: ['lighting/plant-lighting', 'lighting/light-sources', 'lighting/room-lamps'],
    },
    text('factKept', 'Kept under', 'optional', { maxLength: 200 }, 'Where you keep it in your own tree.'),
    { key: 'page', label: 'Page', type: 'link', need: 'required', limits: {}, help: 'Where the item can be bought.' },
    {
      key: 'parcel',
      label: 'Parcel',
      type: 'measure',
      need: 'recommended',
      limits: { units: ['g'] },
      help: 'Whole grams.',
    },
    {
      key: 'shelf',
      label: 'Shelf',
      type: 'category',
      need: 'optional',
      limits: {},
      help: 'Set from the category map.',
    },
  ],
  rules: [
    {
      check: 'sales-talk',
      attributes: ['short'],
      phrases: [
        'free delivery',
        'best price',
        'bargain',
        'grab it',
        'while it lasts',
        'hurry',
        'reduced',
        'half price',
        '!!',
      ],
    },
    { check: 'capitals', attributes: ['short'] },
    {
      check: 'told-by',
      least: 2,
      ways: [
        { name: 'a GTIN', all: ['gtin'] },
        { name: 'a maker’s number with its maker', all: ['makerNumber', 'maker'] },
        { name: 'a kin with what differs', all: ['kin'], any: differences.map(([name]) => differsKey(name)) },
      ],
    },
    { check: 'sale-price', price: 'askedBefore', sale: 'asks' },
    { check: 'variant-axis', group: 'kin', axes: differences.map(([name]) => differsKey(name)) },
    { check: 'gtin-unique', gtin: 'gtin' },
    { check: 'item-key-unique', key: 'own' },
  ],
  eligibility: [
    {
      id: 'plant-protection',
      words: 'Sprays against pests need a licence here',
      when: { all: [{ attribute: 'composition', op: 'contains', value: 'potassium soap' }] },
    },
  ],
  exchange: {
    itemKey: 'own',
    formats: ['xml', 'jsonl'],
    document: {
      root: 'goods',
      namespace: 'urn:orrivane:goods:1',
      item: 'piece',
      blocks: [
        {
          name: 'terms',
          nodes: [
            { name: 'leaves-in', attribute: 'leavesIn' },
            { name: 'asks', attribute: 'asks', marks: { currency: { currency: true } } },
            {
              name: 'asked-before',
              attribute: 'askedBefore',
              marks: { until: { attribute: 'until', optional: true } },
            },
          ],
        },
        { name: 'grade', attribute: 'grade' },
        {
          name: 'codes',
          nodes: [
            { name: 'code', attribute: 'own', marks: { kind: { text: 'own' } } },
            { name: 'code', attribute: 'gtin', marks: { kind: { text: 'gtin' } } },
            { name: 'code', attribute: 'makerNumber', marks: { kind: { text: 'maker-number' } } },
            { name: 'maker', attribute: 'maker' },
          ],
        },
        {
          name: 'kin',
          marks: { key: { attribute: 'kin' } },
          nodes: differences.map(([name]) => ({
            name: 'differs',
            attribute: differsKey(name),
            marks: { name: { text: name } },
          })),
        },
        {
          name: 'looks',
          nodes: [
            { name: 'view', attribute: 'view' },
            { name: 'view', attribute: 'moreViews' },
          ],
        },
        {
          name: 'words',
          nodes: [
            { name: 'short', attribute: 'short' },
            { name: 'long', attribute: 'long' },
            { name: 'fact', attribute: 'factStuff', marks: { name: { text: 'made of' } } },
            { name: 'fact', attribute: 'factEnergy', marks: { name: { text: 'energy class' } } },
            { name: 'fact', attribute: 'factKept', marks: { name: { text: 'kept under' } } },
          ],
        },
        {
          name: 'where',
          nodes: [
            { name: 'page', attribute: 'page' },
            { name: 'shelf', attribute: 'shelf' },
          ],
        },
        { name: 'parcel', attribute: 'parcel' },
      ],
    },
  },
};

const second = structuredClone(first);
second.version = '2026.2';
second.validFrom = '2026-12-01';
second.summary = 'From 1 December: a shelf for every item, energy class for every lamp, shorter words.';
second.categoryNeed = 'required';
const attribute = (name) => second.attributes.find((one) => one.key === name);
attribute('short').limits.maxLength = 90;
attribute('long').limits.minLength = 80;
attribute('parcel').need = 'required';
attribute('factEnergy').requiredIn = ['lighting/plant-lighting', 'lighting/light-sources'];
attribute('differsShade').limits.values.push('sage', 'as it grew');
second.categories = second.categories.filter(({ path }) => path !== 'furniture/display/etageres');
second.categories.push({ path: 'plants-growing/pots-planters/orchid-pots', name: 'Orchid pots' });
second.eligibility.push({
  id: 'copper',
  words: 'Goods with copper compounds are not taken',
  when: { attribute: 'composition', op: 'contains', value: 'copper' },
});

for (const rulebook of [first, second])
  writeFileSync(
    new URL(`published/orrivane-${rulebook.version}.json`, import.meta.url),
    `${JSON.stringify(rulebook, null, 1)}\n`,
  );
console.log(`${first.categories.length} categories`);
