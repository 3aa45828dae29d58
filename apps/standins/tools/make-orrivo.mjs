/** Writes the two versions of Orrivo's rulebook (everything in them is invented): node apps/standins/tools/make-orrivo.mjs */
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

const colours = [
  'black',
  'white',
  'cream',
  'grey',
  'silver',
  'gold',
  'brown',
  'beige',
  'red',
  'orange',
  'yellow',
  'green',
  'blue',
  'purple',
  'pink',
  'terracotta',
  'clear',
  'multicolour',
];

const first = {
  channel: 'orrivo',
  name: 'Orrivo',
  version: '2026.1',
  validFrom: '2026-01-15',
  summary: 'Rules for goods shown in search and price comparison.',
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
      key: 'id',
      label: 'Item id',
      type: 'text',
      need: 'required',
      limits: { maxLength: 50 },
      help: 'Names the item; never changes.',
    },
    { key: 'title', label: 'Title', type: 'text', need: 'required', limits: { maxLength: 140 } },
    { key: 'description', label: 'Description', type: 'text', need: 'required', limits: { maxLength: 4000 } },
    {
      key: 'link',
      label: 'Link',
      type: 'link',
      need: 'required',
      limits: {},
      help: 'The page where the item can be bought.',
    },
    {
      key: 'image',
      label: 'Image',
      type: 'picture',
      need: 'required',
      limits: { minWidth: 600, minHeight: 600, maxCount: 1 },
    },
    { key: 'moreImages', label: 'More images', type: 'picture', need: 'optional', limits: { maxCount: 10 } },
    {
      key: 'availability',
      label: 'Availability',
      type: 'choice',
      need: 'required',
      limits: { values: ['in stock', 'out of stock', 'on order'] },
    },
    { key: 'price', label: 'Price', type: 'money', need: 'required', limits: {}, help: 'With VAT.' },
    { key: 'salePrice', label: 'Sale price', type: 'money', need: 'optional', limits: {} },
    {
      key: 'saleDates',
      label: 'Dates of the sale',
      type: 'text',
      need: 'optional',
      limits: { pattern: '^\\d{4}-\\d{2}-\\d{2}/\\d{4}-\\d{2}-\\d{2}$' },
    },
    {
      key: 'condition',
      label: 'Condition',
      type: 'choice',
      need: 'required',
      limits: { values: ['new', 'refurbished', 'used'] },
    },
    { key: 'brand', label: 'Brand', type: 'text', need: 'required', limits: { maxLength: 70 } },
    { key: 'gtin', label: 'GTIN', type: 'gtin', need: 'optional', limits: {} },
    { key: 'mpn', label: 'MPN', type: 'text', need: 'optional', limits: { maxLength: 70 } },
    { key: 'groupId', label: 'Group id', type: 'text', need: 'optional', limits: { maxLength: 50 } },
    { key: 'colour', label: 'Colour', type: 'choice', need: 'optional', limits: { values: colours } },
    { key: 'size', label: 'Size', type: 'text', need: 'optional', limits: { maxLength: 100 } },
    { key: 'pattern', label: 'Pattern or version', type: 'text', need: 'optional', limits: { maxLength: 100 } },
    { key: 'material', label: 'Material', type: 'text', need: 'optional', limits: { maxLength: 200 } },
    {
      key: 'shippingWeight',
      label: 'Shipping weight',
      type: 'measure',
      need: 'recommended',
      limits: { units: ['g', 'kg'] },
    },
    {
      key: 'energyClass',
      label: 'Energy class',
      type: 'choice',
      need: 'recommended',
      limits: { values: ['A', 'B', 'C', 'D', 'E', 'F', 'G'] },
      categories: ['lighting/plant-lighting', 'lighting/light-sources', 'lighting/room-lamps'],
    },
    { key: 'productType', label: 'Our own category', type: 'text', need: 'optional', limits: { maxLength: 750 } },
  ],
  rules: [
    {
      check: 'sales-talk',
      attributes: ['title'],
      phrases: [
        'free delivery',
        'free shipping',
        'best price',
        'lowest price',
        'bargain',
        'buy now',
        'sale',
        'must have',
        'limited offer',
        'hurry',
        'cheap',
        'special offer',
        'discount',
        '% off',
      ],
    },
    { check: 'capitals', attributes: ['title'] },
    { check: 'identifiers', gtin: 'gtin', brand: 'brand', mpn: 'mpn' },
    { check: 'sale-price', price: 'price', sale: 'salePrice' },
    { check: 'variant-axis', group: 'groupId', axes: ['colour', 'size', 'pattern'] },
    { check: 'gtin-unique', gtin: 'gtin' },
    { check: 'item-key-unique', key: 'id' },
  ],
  eligibility: [
    {
      id: 'plant-protection',
      words: 'Sprays against pests need a licence here',
      when: { all: [{ attribute: 'composition', op: 'contains', value: 'potassium soap' }] },
    },
  ],
  feed: {
    itemKey: 'id',
    rss: { prefix: 'o', namespace: 'urn:orrivo:catalogue:1' },
    fields: [
      { attribute: 'id', name: 'id' },
      { attribute: 'title', name: 'title', plain: true },
      { attribute: 'description', name: 'description', plain: true },
      { attribute: 'link', name: 'link', plain: true },
      { attribute: 'image', name: 'image' },
      { attribute: 'moreImages', name: 'more_image' },
      { attribute: 'availability', name: 'availability' },
      { attribute: 'price', name: 'price' },
      { attribute: 'salePrice', name: 'sale_price' },
      { attribute: 'saleDates', name: 'sale_dates' },
      { attribute: 'condition', name: 'condition' },
      { attribute: 'brand', name: 'brand' },
      { attribute: 'gtin', name: 'gtin' },
      { attribute: 'mpn', name: 'mpn' },
      { attribute: 'groupId', name: 'group_id' },
      { attribute: 'colour', name: 'colour' },
      { attribute: 'size', name: 'size' },
      { attribute: 'pattern', name: 'version' },
      { attribute: 'material', name: 'material' },
      { attribute: 'shippingWeight', name: 'shipping_weight' },
      { attribute: 'energyClass', name: 'energy_class' },
      { attribute: 'productType', name: 'own_category' },
      { attribute: 'category', name: 'category' },
    ],
  },
};
first.attributes.push({
  key: 'category',
  label: 'Category',
  type: 'category',
  need: 'optional',
  limits: {},
  help: 'Set from the category map.',
});

const second = structuredClone(first);
second.version = '2026.2';
second.validFrom = '2026-12-01';
second.summary = 'From 1 December: a category for every item, energy class for every lamp, shorter titles.';
second.categoryNeed = 'required';
const attribute = (name) => second.attributes.find((one) => one.key === name);
attribute('title').limits.maxLength = 120;
attribute('description').limits.minLength = 40;
attribute('shippingWeight').need = 'required';
attribute('energyClass').requiredIn = ['lighting/plant-lighting', 'lighting/light-sources'];
attribute('colour').limits.values.push('sage green', 'natural');
second.categories = second.categories.filter(({ path }) => path !== 'furniture/display/etageres');
second.categories.push({ path: 'plants-growing/pots-planters/orchid-pots', name: 'Orchid pots' });
second.eligibility.push({
  id: 'copper',
  words: 'Goods with copper compounds are not taken',
  when: { attribute: 'composition', op: 'contains', value: 'copper' },
});

for (const rulebook of [first, second])
  writeFileSync(
    new URL(`../rulebooks/orrivo-${rulebook.version}.json`, import.meta.url),
    `${JSON.stringify(rulebook, null, 1)}\n`,
  );
console.log(`${first.categories.length} categories`);
