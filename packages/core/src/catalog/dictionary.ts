/** The attributes every catalogue has, and those a company may begin with; each adds its own. */
import type { Attribute, Dimension, ListValue, Role } from '../values/index.js';

const conditions: ListValue[] = [
  {
    key: 'new',
    names: { en: 'new' },
    spellings: ['neu', 'ny', 'nieuw', 'neuf', 'nuevo', 'nuovo', 'nowy', 'novo', 'uusi', 'nové'],
  },
  { key: 'refurbished', names: { en: 'refurbished' }, spellings: ['generalüberholt', 'reconditionné', 'renoverad'] },
  {
    key: 'used',
    names: { en: 'used' },
    spellings: ['gebraucht', 'begagnad', 'brugt', 'gebruikt', 'occasion', 'usado', 'usato'],
  },
];

const base = { many: false, perLanguage: false, level: 'variant', group: 'Basics' } as const;

export const baseDictionary: Attribute[] = [
  { ...base, key: 'sku', role: 'sku', label: 'SKU', type: 'text' },
  { ...base, key: 'title', role: 'title', label: 'Title', type: 'text', perLanguage: true, group: 'Texts' },
  {
    ...base,
    key: 'description',
    role: 'description',
    label: 'Description',
    type: 'richText',
    perLanguage: true,
    group: 'Texts',
  },
  { ...base, key: 'brand', role: 'brand', label: 'Brand', type: 'text' },
  { ...base, key: 'category', role: 'category', label: 'Category', type: 'choice' },
  { ...base, key: 'gtin', role: 'gtin', label: 'GTIN', type: 'text', group: 'Identifiers' },
  { ...base, key: 'mpn', role: 'mpn', label: 'MPN', type: 'text', group: 'Identifiers' },
  { ...base, key: 'state', role: 'state', label: 'State', type: 'choice', choices: ['selling', 'paused', 'withdrawn'] },
  { ...base, key: 'page', role: 'page', label: 'Page address', type: 'link' },
  { ...base, key: 'pictures', role: 'pictures', label: 'Pictures', type: 'media', many: true, group: 'Pictures' },
  {
    ...base,
    key: 'morePictures',
    role: 'pictures',
    label: 'More pictures',
    type: 'media',
    many: true,
    group: 'Pictures',
  },
  { ...base, key: 'colour', role: 'colour', label: 'Colour', type: 'text', group: 'Looks' },
  { ...base, key: 'material', role: 'material', label: 'Material', type: 'text', group: 'Looks' },
  { ...base, key: 'weight', role: 'weight', label: 'Weight', type: 'measure', dimension: 'mass', group: 'Sizes' },
  { ...base, key: 'purchasePrice', role: 'purchasePrice', label: 'Purchase price', type: 'money', group: 'Money' },
  {
    ...base,
    key: 'recommendedPrice',
    role: 'recommendedPrice',
    label: 'Recommended price',
    type: 'money',
    group: 'Money',
  },
];

const measured = (role: Role, label: string, dimension: Dimension, group: string): Attribute => ({
  ...base,
  key: role,
  role,
  label,
  type: 'measure',
  dimension,
  group,
});

/** Films, other numbers goods go by, and which goods they have to do with. */
export const linkingAttributes: readonly Attribute[] = [
  {
    ...base,
    key: 'videos',
    role: 'video',
    label: 'Videos',
    aliases: ['Video', 'Film', 'Video URL', 'Produktvideo', 'Videolink'],
    help: 'Addresses of films, the main one first',
    type: 'link',
    many: true,
    group: 'Pictures',
  },
  {
    ...base,
    key: 'references',
    role: 'reference',
    label: 'Reference numbers',
    aliases: ['Referenznummern', 'Referensnummer'],
    help: 'Numbers of any kind; goods are found by them',
    type: 'text',
    many: true,
    group: 'Identifiers',
  },
  {
    ...base,
    key: 'substitutes',
    role: 'substitutes',
    label: 'Substitutes',
    aliases: ['Ersatzartikel', 'Ersättningsartiklar'],
    help: 'SKUs of what is offered where these have run out',
    type: 'text',
    many: true,
    group: 'Other goods',
  },
  {
    ...base,
    key: 'related',
    role: 'related',
    label: 'Goes with',
    aliases: ['Related products', 'Passt zu', 'Passar till'],
    help: 'SKUs of what is bought with these',
    type: 'text',
    many: true,
    group: 'Other goods',
  },
];

/** What a company may begin with: what goods of most trades have, each known by its role; no categories. */
export const startSet: readonly Attribute[] = [
  ...baseDictionary,
  { ...base, key: 'size', role: 'size', label: 'Size', type: 'text', group: 'Sizes' },
  measured('width', 'Width', 'length', 'Sizes'),
  measured('height', 'Height', 'length', 'Sizes'),
  measured('depth', 'Depth', 'length', 'Sizes'),
  measured('length', 'Length', 'length', 'Sizes'),
  measured('diameter', 'Diameter', 'length', 'Sizes'),
  measured('volume', 'Volume', 'volume', 'Sizes'),
  { ...base, key: 'packSize', role: 'packSize', label: 'Pieces in a pack', type: 'number', group: 'Sizes' },
  { ...base, key: 'pattern', role: 'pattern', label: 'Pattern', type: 'text', group: 'Looks' },
  measured('power', 'Power', 'power', 'Electricity'),
  measured('voltage', 'Voltage', 'voltage', 'Electricity'),
  {
    ...base,
    key: 'energyClass',
    role: 'energyClass',
    label: 'Energy class',
    type: 'choice',
    // Regulation (EU) 2017/1369, annex II.
    choices: ['A', 'B', 'C', 'D', 'E', 'F', 'G'],
    group: 'Electricity',
  },
  {
    ...base,
    key: 'condition',
    role: 'condition',
    label: 'Condition',
    type: 'choice',
    choices: conditions,
    group: 'Use',
  },
  { ...base, key: 'audience', role: 'audience', label: 'Made for', type: 'text', group: 'Use' },
  measured('warranty', 'Warranty', 'time', 'Use'),
  { ...base, key: 'care', role: 'care', label: 'Care', type: 'text', perLanguage: true, group: 'Texts' },
  { ...base, key: 'origin', role: 'origin', label: 'Country of origin', type: 'text', group: 'Customs' },
  { ...base, key: 'customsCode', role: 'customsCode', label: 'Customs tariff number', type: 'text', group: 'Customs' },
  ...linkingAttributes,
];

/** Attributes that follow from others or from the sources: nobody types them. */
export const computedAttributes: Attribute[] = [
  { ...base, key: 'suppliers', label: 'Sources', type: 'text', many: true, group: 'Sources' },
  { ...base, key: 'articleNumbers', label: 'Article numbers', type: 'text', many: true, group: 'Sources' },
  { ...base, key: 'droppedBy', label: 'No longer listed by', type: 'text', many: true, group: 'Sources' },
];

const computedKeys: ReadonlySet<string> = new Set(computedAttributes.map((attribute) => attribute.key));
export const isComputed = (key: string): boolean => computedKeys.has(key);
