/** Reading an offered list of goods, as Orrivane does: its own XML, or the same blocks as JSON Lines. */
import { SaxesParser } from 'saxes';

export interface OfferedItem {
  /** Days; absent = not to be had. */
  leavesIn?: string;
  asks: string;
  currency: string;
  askedBefore?: string;
  until?: string;
  grade?: string;
  /** By kind: own, gtin, maker-number. */
  codes: Record<string, string>;
  maker: string;
  kin?: { key: string; differs: Record<string, string> };
  views: string[];
  short: string;
  long: string;
  facts: { name: string; value: string }[];
  page: string;
  shelf?: string;
  /** Grams. */
  parcel?: string;
}

const namespace = 'urn:orrivane:goods:1';

export function readGoods(text: string, contentType: string): OfferedItem[] {
  return /xml/.test(contentType) || text.startsWith('<?xml') ? readXml(text) : readLines(text);
}

const blank = (): OfferedItem => ({
  asks: '',
  currency: '',
  codes: {},
  maker: '',
  views: [],
  short: '',
  long: '',
  facts: [],
  page: '',
});

type Marks = Record<string, string>;

/** One named value of a block with what stands beside it. */
function put(item: OfferedItem, block: string, name: string, value: string, marks: Marks): void {
  switch (`${block}/${name}`) {
    case 'terms/leaves-in':
      item.leavesIn = value;
      break;
    case 'terms/asks':
      [item.asks, item.currency] = [value, marks.currency ?? ''];
      break;
    case 'terms/asked-before':
      [item.askedBefore, item.until] = [value, marks.until ?? ''];
      break;
    case 'codes/code':
      item.codes[marks.kind ?? ''] = value;
      break;
    case 'codes/maker':
      item.maker = value;
      break;
    case 'kin/differs':
      (item.kin ??= { key: '', differs: {} }).differs[marks.name ?? ''] = value;
      break;
    case 'looks/view':
      item.views.push(value);
      break;
    case 'words/short':
      item.short = value;
      break;
    case 'words/long':
      item.long = value;
      break;
    case 'words/fact':
      item.facts.push({ name: marks.name ?? '', value });
      break;
    case 'where/page':
      item.page = value;
      break;
    case 'where/shelf':
      item.shelf = value;
      break;
    case 'grade/':
      item.grade = value;
      break;
    case 'parcel/':
      item.parcel = value;
      break;
  }
}

function readXml(text: string): OfferedItem[] {
  const items: OfferedItem[] = [];
  let item: OfferedItem | undefined;
  let block = '';
  let name = '';
  let marks: Marks = {};
  let value = '';
  const parser = new SaxesParser({ xmlns: true });
  parser.on('opentag', ({ local, uri, attributes }) => {
    if (uri !== namespace) return;
    value = '';
    if (local === 'piece') item = blank();
    else if (item && block === '') {
      [block, name] = [local, ''];
      const key = attributes.key?.value;
      if (block === 'kin' && key !== undefined) item.kin = { key, differs: {} };
    } else if (item) {
      name = local;
      marks = Object.fromEntries(Object.values(attributes).map((attribute) => [attribute.local, attribute.value]));
    }
  });
  parser.on('text', (part) => (value += part));
  parser.on('cdata', (part) => (value += part));
  parser.on('closetag', ({ local, uri }) => {
    if (uri !== namespace || !item) return;
    if (local === 'piece') {
      items.push(item);
      item = undefined;
    } else if (local === name) {
      put(item, block, name, value.trim(), marks);
      [name, value, marks] = ['', '', {}];
    } else if (local === block) {
      if (value.trim() !== '') put(item, block, '', value.trim(), {});
      [block, value] = ['', ''];
    }
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(text).close();
  return items;
}

function readLines(text: string): OfferedItem[] {
  return text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const item = blank();
      for (const [block, parts] of Object.entries(JSON.parse(line) as Record<string, unknown>)) {
        if (typeof parts === 'string') put(item, block, '', parts, {});
        else
          for (const [name, written] of Object.entries(parts as Record<string, unknown>))
            if (block === 'kin' && name === 'key')
              item.kin = { key: String(written), differs: item.kin?.differs ?? {} };
            else
              for (const row of Array.isArray(written) ? written : [written]) {
                const { value, ...marks } = typeof row === 'object' ? (row as Marks) : { value: String(row) };
                put(item, block, name, value ?? '', marks);
              }
      }
      return item;
    });
}
