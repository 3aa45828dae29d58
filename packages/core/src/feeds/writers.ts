/** Feed formats: one writer a format, compiled for a rulebook's layout. Text in, text out; bytes are the server's. */
import type { ChannelValue, Item } from '../checks/index.js';
import type { ChannelAttribute, Rulebook } from '../rulebooks/index.js';
import { csvCell, tsvCell } from '../tabular/index.js';

export const feedFormats = ['rss', 'tsv', 'csv'] as const;
export type FeedFormat = (typeof feedFormats)[number];

export interface FeedWriter {
  contentType: string;
  extension: string;
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

type CellWriter = (value: ChannelValue) => string;

/** Writes channel values as text: money as amount and currency, pictures as addresses. */
function cellWriter(attribute: ChannelAttribute | undefined, currency: string): CellWriter {
  if (attribute?.type === 'money')
    return (value) => (typeof value === 'number' ? `${minorText(value)} ${currency}` : String(value));
  if (attribute?.type === 'picture')
    return (value) => (Array.isArray(value) ? value.map((picture) => picture.address).join(',') : String(value));
  return String;
}

function minorText(minor: number): string {
  const text = String(Math.abs(minor)).padStart(3, '0');
  return `${minor < 0 ? '-' : ''}${text.slice(0, -2)}.${text.slice(-2)}`;
}

export function compileWriter(format: FeedFormat, rulebook: Rulebook, meta: FeedMeta): FeedWriter {
  const byKey = new Map(rulebook.attributes.map((one) => [one.key, one]));
  const fields = rulebook.feed.fields.map((field) => ({
    ...field,
    many: byKey.get(field.attribute)?.type === 'picture',
    write: cellWriter(byKey.get(field.attribute), meta.currency),
  }));
  if (format === 'rss') return rssWriter(rulebook, meta, fields);
  const [cell, mark, contentType] =
    format === 'csv' ? ([csvCell, ',', 'text/csv'] as const) : ([tsvCell, '\t', 'text/tab-separated-values'] as const);
  const end = format === 'csv' ? '\r\n' : '\n';
  return {
    contentType: `${contentType}; charset=utf-8`,
    extension: format,
    head: fields.map((field) => cell(field.name)).join(mark) + end,
    item: (values) => {
      let line = '';
      for (let i = 0; i < fields.length; i++) {
        const field = fields[i];
        const value = field === undefined ? undefined : values[field.attribute];
        if (i > 0) line += mark;
        if (value !== undefined && field) line += cell(field.write(value));
      }
      return line + end;
    },
    foot: '',
  };
}

interface Field {
  attribute: string;
  name: string;
  plain?: boolean | undefined;
  many: boolean;
  write: CellWriter;
}

/** RSS 2.0 with the channel's own namespace; `plain` fields are RSS's own elements (title, link, description). */
function rssWriter({ feed }: Rulebook, meta: FeedMeta, fields: Field[]): FeedWriter {
  const { prefix, namespace } = feed.rss;
  const tags = fields.map((field) => ({ ...field, tag: field.plain ? field.name : `${prefix}:${field.name}` }));
  return {
    contentType: 'application/rss+xml; charset=utf-8',
    extension: 'xml',
    head:
      `<?xml version="1.0" encoding="UTF-8"?>\n<rss version="2.0" xmlns:${prefix}="${namespace}">\n<channel>\n` +
      `<title>${xmlText(meta.title)}</title>\n<link>${xmlText(meta.link)}</link>\n<description>${xmlText(meta.description)}</description>\n`,
    item: (values) => {
      let text = '<item>';
      for (const { attribute, tag, many, write } of tags) {
        const value = values[attribute];
        if (value === undefined) continue;
        if (many && Array.isArray(value))
          for (const picture of value) text += `<${tag}>${xmlText(picture.address)}</${tag}>`;
        else text += `<${tag}>${xmlText(write(value))}</${tag}>`;
      }
      return `${text}</item>\n`;
    },
    foot: '</channel>\n</rss>\n',
  };
}

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
