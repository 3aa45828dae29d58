/** What a feed format is. One file a format; index.ts lists them. Text in, text out; bytes are the server's. */
import type { ChannelValue, Item } from '../../checks/index.js';
import { type ChannelAttribute, type Rulebook, sayChannelValue } from '../../rulebooks/index.js';
import { fromMinor } from '../../values/index.js';

export interface FeedWriter {
  head: string;
  item(values: Item): string;
  foot: string;
}

export interface FeedMeta {
  title: string;
  link: string;
  description: string;
  currency: string;
}

export interface WrittenFormat {
  /** As people read it. */
  label: string;
  extension: string;
  contentType: string;
  compile(rulebook: Rulebook, meta: FeedMeta): FeedWriter;
}

/** What a value is written as, one text for each of a list. */
export type Texts = (value: ChannelValue) => readonly string[];

/** Money as a decimal number, measures in a single unit as their figure, lists one text a value. */
export function textsOf(attribute: ChannelAttribute | undefined): Texts {
  const isBare = attribute?.limits.units?.length === 1;
  return (value) => {
    if (typeof value !== 'object') return [sayChannelValue(value)];
    switch (value.kind) {
      case 'texts':
        return value.texts;
      case 'pictures':
        return value.pictures.map(({ address }) => address);
      case 'money':
        return [fromMinor(value.minor, value.currency)];
      case 'measure':
        return [isBare ? value.amount : sayChannelValue(value)];
      case 'date':
        return [value.day];
    }
  };
}

export const attributesByKey = ({ attributes }: Rulebook): ReadonlyMap<string, ChannelAttribute> =>
  new Map(attributes.map((attribute) => [attribute.key, attribute]));

/** Character data of XML 1.0 (section 2.2): markup escaped, characters that XML does not allow dropped. */
export function xmlText(text: string): string {
  // eslint-disable-next-line no-control-regex
  if (!/[&<>\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff\ud800-\udfff]/.test(text)) return text;
  return (
    text
      .toWellFormed()
      // eslint-disable-next-line no-control-regex
      .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
      .replaceAll('&', '&amp;')
      .replaceAll('<', '&lt;')
      .replaceAll('>', '&gt;')
  );
}

/** The same between quotation marks. */
export const xmlMark = (text: string): string => xmlText(text).replaceAll('"', '&quot;');
