/**
 * What a record says of itself that two records of the same goods cannot say differently: brand, pack count, condition, sizes
 * and figures; read from its attributes, its options and, by a small reader, its titles.
 */
import {
  type Attribute,
  type Measure,
  type Value,
  canonical,
  foldCode,
  foldText,
  closedList,
  readGtin,
  units,
  withRole,
} from '../values/index.js';
import { readFigures } from './figures.js';
import { colourOf, letterSizes, packWords, placeholders, titleWords } from './words.js';

export interface Traits {
  /** Comparable brand, small letters and digits. */
  brand?: string;
  /** Of a GTIN that only its owner gives out. */
  gtin?: string;
  mpn?: string;
  /** Pieces in a pack, where it says so. */
  pack?: number;
  /** Undefined = new, or nothing said. */
  condition?: 'used' | 'refurbished' | 'damaged' | 'display';
  /** Words of the titles, folded. */
  words: ReadonlySet<string>;
  /** Figures with units in titles and options, in base units, by dimension. */
  figures: ReadonlyMap<string, readonly number[]>;
  /** Measures of attributes, in base units. */
  measures: ReadonlyMap<string, number>;
  /** Sizes of clothes and shoes ("XL", "42"), as compared. */
  sizes: ReadonlySet<string>;
  /** Everyday colours, by their English name. */
  colours: ReadonlySet<string>;
}

/** What traits are read out of: typed values by slot ("title@de-DE"), and options. */
export interface Described {
  values: Readonly<Record<string, Value>>;
  options?: readonly (readonly [string, string])[] | undefined;
}

const traitRoles = ['title', 'brand', 'gtin', 'mpn', 'size', 'colour', 'condition', 'packSize'] as const;
type TraitRole = (typeof traitRoles)[number];

/** Where a company keeps what traits are read from, and how what is on a list of its is said. */
export type TraitKeys = Readonly<Partial<Record<TraitRole, { key: string; say?: (value: string) => string }>>>;

/** Where attributes are called by their roles. */
const ownRoles: TraitKeys = Object.fromEntries(traitRoles.map((role) => [role, { key: role }]));

export const traitKeys = (attributes: ReadonlyMap<string, Attribute>): TraitKeys =>
  Object.fromEntries(
    traitRoles.flatMap((role) => {
      const [attribute] = withRole(attributes, role);
      if (!attribute) return [];
      const list = closedList(attribute);
      return [[role, { key: attribute.key, ...(list ? { say: (value: string) => list.say(value) } : {}) }]];
    }),
  );

/** True where two contents say the same of all that joins are held against. */
export function sameTraits(a: Described, b: Described, keys?: TraitKeys): boolean {
  const plain = (described: Described) =>
    canonical(
      Object.entries(readTraits(described, keys)).map(([key, value]: [string, Traits[keyof Traits]]) => [
        key,
        value instanceof Set || value instanceof Map ? [...value] : (value as string | number),
      ]),
    );
  return plain(a) === plain(b);
}

export function readTraits({ values, options = [] }: Described, keys: TraitKeys = ownRoles): Traits {
  const titles = Object.entries(values).flatMap(([slot, value]) =>
    slot.startsWith(`${keys.title?.key}@`) && typeof value === 'string' ? [value] : [],
  );
  const held = (role: TraitRole): Value | undefined => values[keys[role]?.key ?? ''];
  const text = (role: TraitRole) => {
    const value = held(role);
    return typeof value === 'string' ? (keys[role]?.say?.(value) ?? value) : undefined;
  };
  const said = [...titles, ...options.map(([, value]) => value)];
  const gtin = text('gtin') === undefined ? undefined : readGtin(text('gtin') ?? '');
  const condition = titles.map(readCondition).find(Boolean) ?? readCondition(text('condition') ?? '');
  const pack = numberOf(held('packSize')) ?? titles.map(readPack).find((n) => n !== undefined);
  const measures = new Map<string, number>();
  for (const [key, value] of Object.entries(values))
    if (isMeasure(value) && units[value.unit]?.dimension !== 'mass') measures.set(key, value.base);
  const size = text('size');
  return {
    ...(text('brand') ? { brand: foldCode(text('brand') ?? '') } : {}),
    ...(gtin?.ok && gtin.internal === undefined ? { gtin: gtin.gtin14 } : {}),
    ...(text('mpn') ? { mpn: foldCode(text('mpn') ?? '') } : {}),
    ...(pack === undefined ? {} : { pack }),
    ...(condition ? { condition } : {}),
    words: new Set(titles.flatMap(titleWords).filter((word) => !packWords.has(word))),
    figures: figuresOf(said),
    measures,
    sizes: new Set([...said.flatMap(readSizes), ...(size ? readSizes(`size ${size}`) : [])]),
    colours: new Set([...said, text('colour') ?? ''].flatMap(readColours)),
  };
}

const isMeasure = (value: Value | undefined): value is Measure =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && 'base' in value;

function numberOf(value: Value | undefined): number | undefined {
  const n =
    typeof value === 'number'
      ? value
      : typeof value === 'string'
        ? Number(/^\s*(\d{1,5})/.exec(value)?.[1])
        : Number.NaN;
  return Number.isInteger(n) && n > 0 ? n : undefined;
}

const n = String.raw`(\d{1,4})`;
const packs = [
  new RegExp(String.raw`\b(?:pack|box|set|case|bag|bundle|lot|carton|tray)s? of ${n}\b`),
  new RegExp(String.raw`\b${n}\s*-?\s*(?:pack|packs|pk|pieces?|pcs?|count|ct|rolls|pairs)\b`),
  new RegExp(String.raw`\b${n}\s*-?er[\s-]*(?:pack|packung|set|box|karton|bund)\b`),
  new RegExp(String.raw`\b${n}\s*(?:stk|stck|stuck|st|teilig|teile)\b\.?`),
  new RegExp(String.raw`\b${n}\s*-?\s*(?:p|delar|forpackning)\b`),
  new RegExp(String.raw`(?:^|[\s,(])${n}\s?[x×](?=\s*\d*[.,]?\d+\s?(?:g|kg|ml|cl|l|mg|oz)\b)`),
  new RegExp(String.raw`(?<![\d.,]\s?)(?:^|[\s,(])[x×]\s?${n}(?=$|[\s,)])(?!\s?(?:mm|cm|m|in)\b)`),
  new RegExp(String.raw`\b(?:vpe|ve|pack qty|quantity):?\s*${n}\b`),
];

/** "Pack of 6", "6er-Set", "6 x 330 ml", "12 Stück" → pieces. */
export function readPack(title: string): number | undefined {
  const text = foldText(title);
  for (const pattern of packs) {
    const found = Number(pattern.exec(text)?.[1]);
    if (Number.isInteger(found) && found > 0) return found;
  }
  if (/\b(?:single|einzeln|einzelstuck|styckvis)\b/.test(text)) return 1;
  if (/\b(?:twin ?pack|duo ?pack|doppelpack|dubbelpack|pair of|paar)\b/.test(text)) return 2;
  return /\b(?:dozen|dutzend|dussin)\b/.test(text) ? 12 : undefined;
}

const conditions: [NonNullable<Traits['condition']>, RegExp][] = [
  [
    'refurbished',
    /\b(?:refurb(?:ished)?|renewed|reconditioned|remanufactured|generaluberholt|wiederaufbereitet|uberholt|renoverad|rekonditionerad|renoverat)\b/,
  ],
  ['used', /\b(?:used|pre[- ]?owned|second[- ]?hand|gebraucht|gebrauchte[rs]?|begagnad|begagnat|b[- ]?ware)\b/],
  ['damaged', /\b(?:damaged|faulty|for parts|spares or repair|beschadigt|defekt|skadad|trasig)\b/],
  [
    'display',
    /\b(?:ex[- ]?display|display model|open[- ]?box|b[- ]?stock|grade b|vorfuhrgerat|ausstellungsstuck|utstallningsexemplar|demoexemplar)\b/,
  ],
];

/** Whether a title says that goods are not new. */
export function readCondition(title: string): Traits['condition'] {
  const text = foldText(title);
  return conditions.find(([, pattern]) => pattern.test(text))?.[0];
}

/** Figures with units ("8 mm", "1,7 l", "24 V"), each in base units. */
function figuresOf(texts: readonly string[]): Map<string, number[]> {
  const found = new Map<string, number[]>();
  for (const { dimension, base } of texts.flatMap((text) => readFigures(text).figures))
    if (dimension !== undefined) found.set(dimension, [...(found.get(dimension) ?? []), base]);
  return found;
}

/** "Size M", "Gr. 42", "XXL" at the end: sizes as compared. */
function readSizes(title: string): string[] {
  const text = foldText(title);
  const named = [
    ...text.matchAll(
      /\b(?:size|sizes|gr|grosse|groesse|stl|storlek|str)\b\.?:?\s*(\d{0,2}x{0,3}[sml]|\d{1,3}(?:[.,/]5)?|small|medium|large)\b/g,
    ),
  ];
  const bare = [...text.matchAll(/(?:^|[\s,/(-])(\d?x{1,4}[sl]|\d?xs|[sml](?=$|\)))(?=$|[\s,/)])/g)];
  return [...named, ...bare].flatMap(([, size]) => (size ? [letterSizes[size] ?? size.replace(',', '.')] : []));
}

const readColours = (text: string): string[] =>
  foldText(text)
    .split(/[^\p{L}]+/u)
    .flatMap((word) => colourOf(word) ?? []);

/** A key of one sign repeated, or of zeros, stands for a number nobody knows. */
export const isPlaceholder = (key: string): boolean => {
  const bare = foldCode(key);
  return bare === '' || bare === '0' || /^(.)\1+$/u.test(bare) || placeholders.has(bare);
};
