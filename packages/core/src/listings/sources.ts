/** What a fill can read: attributes of the dictionary, and facts that are no attributes (price, stock, pictures …). */
import type { Family, Offer, Variant } from '../catalog/index.js';
import type { ChannelValue, Picture } from '../checks/index.js';
import { type ChannelAttribute, sayChannelValue } from '../rulebooks/index.js';
import {
  type Attribute,
  type Measure,
  type Media,
  type Money,
  type SingleValue,
  type Value,
  closedList,
  keyOf,
  members,
  plainValue,
  toMinor,
  withRole,
} from '../values/index.js';
import type { Link } from '../fills/index.js';
import type { PlaceSetup } from './place.js';

export interface View {
  variant: Variant;
  family: Family;
  /** ISO 8601 date. */
  today: string;
}

export interface Source {
  label: string;
  read(view: View): ChannelValue | undefined;
  /** Key of the listed value it reads, where it reads one. */
  refer?(view: View): string | undefined;
  /** What such a key stands for now. */
  current?(key: string): string;
  link: Link;
}

interface Built {
  label: string;
  fits: ChannelAttribute['type'][];
  make(setup: PlaceSetup): Source['read'];
  /** Which catalog attribute one would edit to give it a value, where that is not one of its name. */
  edited?(dictionary: ReadonlyMap<string, Attribute>): string | undefined;
}

/** A sale is sent until its last day. One that is still to come is sent ahead only with both its dates: without them it would hold at once. */
function saleNow(offer: Offer | undefined, today: string): Offer['sale'] {
  const sale = offer?.sale;
  if (!sale || (sale.to !== undefined && sale.to < today)) return undefined;
  const isAhead = sale.from !== undefined && sale.from > today;
  return isAhead && sale.to === undefined ? undefined : sale;
}

/** A sale that holds today. */
function runningSale(offer: Offer | undefined, today: string): Offer['sale'] {
  const sale = offer?.sale;
  const holds = sale && (sale.from === undefined || sale.from <= today) && (sale.to === undefined || sale.to >= today);
  return holds ? sale : undefined;
}

const money = (amount: string | undefined, currency: string): ChannelValue | undefined =>
  amount === undefined ? undefined : { kind: 'money', minor: toMinor(amount, currency), currency };

const date = (day: string | undefined): ChannelValue | undefined =>
  day === undefined ? undefined : { kind: 'date', day };

const some = (list: readonly Picture[]): ChannelValue | undefined =>
  list.length === 0 ? undefined : { kind: 'pictures', pictures: list };

/** Facts that are no attributes, by their name in fills. */
const builtIn: Record<string, Built> = {
  price: {
    label: 'price',
    fits: ['money'],
    make:
      ({ currency }) =>
      ({ variant }) => {
        return money(variant.offers[currency]?.regular, currency);
      },
  },
  salePrice: {
    label: 'sale price',
    fits: ['money'],
    make:
      ({ currency }) =>
      ({ variant, today }) => {
        return money(saleNow(variant.offers[currency], today)?.amount, currency);
      },
  },
  asking: {
    label: 'price asked today',
    fits: ['money'],
    edited: () => 'price',
    make:
      ({ currency }) =>
      ({ variant, today }) => {
        const offer = variant.offers[currency];
        return money(runningSale(offer, today)?.amount ?? offer?.regular, currency);
      },
  },
  askedBefore: {
    label: 'price before the sale',
    fits: ['money'],
    edited: () => 'salePrice',
    make:
      ({ currency }) =>
      ({ variant, today }) => {
        const offer = variant.offers[currency];
        return runningSale(offer, today) ? money(offer?.regular, currency) : undefined;
      },
  },
  saleEnd: {
    label: 'last day of the sale',
    fits: ['text', 'date'],
    edited: () => 'salePrice',
    make:
      ({ currency }) =>
      ({ variant, today }) =>
        date(runningSale(variant.offers[currency], today)?.to),
  },
  saleDates: {
    label: 'dates of the sale',
    fits: ['text'],
    edited: () => 'salePrice',
    make:
      ({ currency }) =>
      ({ variant, today }) => {
        const sale = saleNow(variant.offers[currency], today);
        return sale?.from && sale.to ? `${sale.from}/${sale.to}` : undefined;
      },
  },
  stock: {
    label: 'stock',
    fits: ['number'],
    make:
      () =>
      ({ variant }) =>
        Math.max(0, variant.stock),
  },
  options: {
    label: 'options',
    fits: ['text'],
    make:
      () =>
      ({ variant }) =>
        variant.options.map(([axis, value]) => `${axis} ${value}`).join(', ') || undefined,
  },
  familyId: {
    label: 'family',
    fits: ['text'],
    edited: () => 'family',
    make:
      () =>
      ({ family }) =>
        family.isSingle ? undefined : `F${family.id}`,
  },
  mainPicture: {
    label: 'first picture',
    fits: ['picture'],
    edited: (dictionary) => keyOf(dictionary, 'pictures'),
    make: (setup) => {
      const read = picturesOf(setup);
      return ({ variant }) => some(read(variant, 0, 1));
    },
  },
  mainPictureWords: {
    label: 'what is seen on the first picture',
    fits: ['text'],
    edited: (dictionary) => keyOf(dictionary, 'pictures'),
    make: (setup) => {
      const named = mediaOf(setup);
      return ({ variant }) => named(variant)[0]?.alt?.[setup.language];
    },
  },
  morePictures: {
    label: 'further pictures',
    fits: ['picture'],
    edited: (dictionary) => keyOf(dictionary, 'pictures'),
    make: (setup) => {
      const read = picturesOf(setup);
      return ({ variant }) => some(read(variant, 1));
    },
  },
};

/** Of what is kept here by name; what stands elsewhere has its own. */
const addressOf = (name: string, here: string): string =>
  /^https?:/.test(name) ? name : `${here}/${encodeURIComponent(name)}`;

/** Reads what a variant has under the attributes for pictures. */
function mediaOf({ dictionary }: PlaceSetup): (variant: Variant) => readonly Media[] {
  const keys = withRole(dictionary, 'pictures').map(({ key }) => key);
  return ({ facts }) =>
    keys.flatMap((key) => {
      const value = facts[key];
      return (Array.isArray(value) ? value : []) as Media[];
    });
}

/** Reads some of a variant's pictures, as a channel fetches them. */
function picturesOf(setup: PlaceSetup): (variant: Variant, from: number, to?: number) => Picture[] {
  const { mediaAddress } = setup;
  const named = mediaOf(setup);
  return (variant, from, to) =>
    named(variant)
      .slice(from, to)
      .map(({ name, width, height, format, plain }) => ({
        address: addressOf(name, mediaAddress),
        ...(/^https?:/.test(name) ? {} : { isOurs: true as const }),
        ...(width !== undefined && height !== undefined ? { width, height } : {}),
        ...(format === undefined ? {} : { format }),
        ...(plain === undefined ? {} : { plain }),
      }));
}

/** Names and labels of what gives pictures. */
export const pictureSources: readonly { name: string; label: string }[] = Object.entries(builtIn).flatMap(
  ([name, { fits, label }]) => (fits.includes('picture') ? [{ name, label }] : []),
);

/** Names and labels of all a fill for this channel attribute can read. */
export function sourcesFor(
  attribute: ChannelAttribute,
  dictionary: ReadonlyMap<string, Attribute>,
): { name: string; label: string }[] {
  const facts = Object.entries(builtIn)
    .filter(([, source]) => source.fits.includes(attribute.type))
    .map(([name, source]) => ({ name, label: source.label }));
  const listed = [...dictionary.values()]
    .filter((attribute) => attribute.type !== 'media' && attribute.type !== 'money')
    .map((attribute) => ({ name: attribute.key, label: attribute.label }));
  return ['picture', 'money'].includes(attribute.type) ? facts : [...facts, ...listed];
}

/** Compiles a source; undefined where neither the dictionary nor the built-in facts have it. */
export function compileSource(name: string, setup: PlaceSetup): Source | undefined {
  const built = builtIn[name];
  if (built) {
    return {
      label: built.label,
      read: built.make(setup),
      link: { at: 'catalog', attribute: built.edited?.(setup.dictionary) ?? name },
    };
  }
  const attribute = setup.dictionary.get(name);
  if (!attribute) return undefined;
  if (attribute.perLanguage) {
    const { language } = setup;
    return {
      label: attribute.label,
      read: ({ variant }) => variant.texts[attribute.key]?.[language],
      link: { at: 'catalog', attribute: attribute.key, language },
    };
  }
  return {
    label: attribute.label,
    ...factReader(attribute, setup),
    link: { at: 'catalog', attribute: attribute.key },
  };
}

const factOf = ({ key, role }: Attribute): ((variant: Variant) => Value | undefined) =>
  role === 'sku'
    ? (variant) => variant.sku
    : role === 'category'
      ? (variant) => variant.category
      : (variant) => variant.facts[key];

/** Reads an attribute; what is on a closed list goes by its name in the place's language, and is known by its key. */
function factReader(attribute: Attribute, setup: PlaceSetup): Pick<Source, 'read' | 'refer' | 'current'> {
  const held = factOf(attribute);
  const list = closedList(attribute);
  const say = list ? (value: SingleValue) => list.say(String(value), setup.language) : sending(attribute, setup);
  const send = (value: Value): ChannelValue => {
    const all = members(value).map(say);
    if (!attribute.many) return all[0] ?? '';
    const texts = all.map(sayChannelValue);
    return texts.length === 1 ? (texts[0] ?? '') : { kind: 'texts', texts };
  };
  return {
    read: ({ variant }) => {
      const value = held(variant);
      return value === undefined ? undefined : send(value);
    },
    ...(list && !attribute.many
      ? { refer: ({ variant }) => held(variant) as string | undefined, current: (key: string) => list.current(key) }
      : {}),
  };
}

/** One member of what an attribute holds, as it is sent. */
function sending(attribute: Attribute, { filesAddress }: PlaceSetup): (value: SingleValue) => ChannelValue {
  switch (attribute.type) {
    case 'measure':
      return (value) => {
        const { amount, unit } = value as Measure;
        return { kind: 'measure', amount, unit };
      };
    case 'money':
      return (value) => {
        const { amount, currency } = value as Money;
        return { kind: 'money', minor: toMinor(amount, currency), currency };
      };
    case 'date':
      return (value) => ({ kind: 'date', day: String(value) });
    case 'file':
      return (value) => addressOf(String(value), filesAddress);
    case 'text':
    case 'choice':
    case 'link':
    case 'number':
    case 'boolean':
      return (value) => value as string | number | boolean;
    default:
      return (value) => plainValue(value, attribute);
  }
}
