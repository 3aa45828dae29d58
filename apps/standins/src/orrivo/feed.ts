/** Reading an offered feed, as Orrivo does: RSS 2.0 with its own namespace, or tab-separated text. */
import { SaxesParser } from 'saxes';

/** Names without a prefix; `image` and `more_image` hold addresses. */
export type OfferedItem = Record<string, string[]>;

const namespace = 'urn:orrivo:catalogue:1';

export function readFeed(text: string, contentType: string): OfferedItem[] {
  return /xml/.test(contentType) || text.startsWith('<?xml') ? readRss(text) : readTabbed(text);
}

function readRss(text: string): OfferedItem[] {
  const items: OfferedItem[] = [];
  let item: OfferedItem | undefined;
  let field: string | undefined;
  let value = '';
  const parser = new SaxesParser({ xmlns: true });
  parser.on('opentag', ({ local, uri }) => {
    if (local === 'item' && uri === '') item = {};
    else if (item && (uri === namespace || uri === '')) [field, value] = [local, ''];
  });
  parser.on('text', (part) => {
    if (field) value += part;
  });
  parser.on('cdata', (part) => {
    if (field) value += part;
  });
  parser.on('closetag', ({ local, uri }) => {
    if (local === 'item' && uri === '' && item) {
      items.push(item);
      item = undefined;
    } else if (item && field === local) {
      (item[local] ??= []).push(value.trim());
      field = undefined;
    }
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(text).close();
  return items;
}

function readTabbed(text: string): OfferedItem[] {
  const [header = '', ...lines] = text
    .replace(/^\uFEFF/, '')
    .split('\n')
    .filter((line) => line !== '');
  const names = header.split('\t');
  return lines.map((line) => {
    const item: OfferedItem = {};
    line.split('\t').forEach((cell, i) => {
      const name = names[i];
      if (name !== undefined && cell !== '') item[name] = name === 'more_image' ? cell.split(',') : [cell];
    });
    return item;
  });
}
