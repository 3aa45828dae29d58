/** The attributes every catalogue has; a company adds its own. */
import type { Attribute } from '../values/index.js';

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

/** Attributes that follow from others or from the sources: nobody types them. */
export const computedAttributes: Attribute[] = [
  { ...base, key: 'suppliers', label: 'Sources', type: 'text', many: true, group: 'Sources' },
  { ...base, key: 'articleNumbers', label: 'Article numbers', type: 'text', many: true, group: 'Sources' },
  { ...base, key: 'droppedBy', label: 'No longer listed by', type: 'text', many: true, group: 'Sources' },
];

const computedKeys: ReadonlySet<string> = new Set(computedAttributes.map((attribute) => attribute.key));
export const isComputed = (key: string): boolean => computedKeys.has(key);

/** Keys the programme itself relies on; they cannot be deleted from a dictionary. */
export const baseKeys: ReadonlySet<string> = new Set(baseDictionary.map((attribute) => attribute.key));
