/** Values as a channel is sent them. How they are written in a file is the feed layout's (feeds/formats). */
import { fromMinor, sayUnit } from '../values/index.js';

export interface Picture {
  address: string;
  /** Kept here, where it can be asked for smaller, square or in another format. */
  isOurs?: true;
  /** Pixels; absent until measured. */
  width?: number;
  height?: number;
  format?: string;
  /** How much of its edge is of one colour, per cent. */
  plain?: number;
}

/** A list of texts, for attributes that take several. */
export interface ChannelTexts {
  kind: 'texts';
  texts: readonly string[];
}
/** An amount in whole minor units of its currency (ISO 4217). */
export interface ChannelMoney {
  kind: 'money';
  minor: number;
  currency: string;
}
/** A decimal number with a unit code of ours (core/values/units). */
export interface ChannelMeasure {
  kind: 'measure';
  amount: string;
  unit: string;
}
/** A calendar day, ISO 8601. */
export interface ChannelDate {
  kind: 'date';
  day: string;
}
export interface ChannelPictures {
  kind: 'pictures';
  pictures: readonly Picture[];
}

/** What is sent for one attribute. A text, a number and yes or no are told by what they are; all else says its kind. */
export type ChannelValue =
  string | number | boolean | ChannelTexts | ChannelMoney | ChannelMeasure | ChannelDate | ChannelPictures;
/** Values by channel attribute key. */
export type Item = Record<string, ChannelValue | undefined>;

/** The value as a person reads it: "6.99 GBP", "370 g", "yes", addresses with commas between. */
export function sayChannelValue(value: ChannelValue): string {
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return String(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  switch (value.kind) {
    case 'texts':
      return value.texts.join(', ');
    case 'money':
      return `${fromMinor(value.minor, value.currency)} ${value.currency}`;
    case 'measure':
      return `${value.amount} ${sayUnit(value.unit)}`;
    case 'date':
      return value.day;
    case 'pictures':
      return value.pictures.map(({ address }) => address).join(', ');
  }
}

/** The value as an exported JSON Schema judges it (schema.ts): money in minor units, measures and days as texts, lists as lists. */
export function plainChannelValue(value: ChannelValue): string | number | boolean | readonly string[] {
  if (typeof value !== 'object') return value;
  switch (value.kind) {
    case 'texts':
      return value.texts;
    case 'money':
      return value.minor;
    case 'pictures':
      return value.pictures.map(({ address }) => address);
    default:
      return sayChannelValue(value);
  }
}
