/** Orrivo's own judgement of an item: what it publishes, and some things it does not say beforehand. */
import type { OfferedItem } from './feed.js';

export interface Answer {
  key: string;
  outcome: 'accepted' | 'warned' | 'refused';
  code?: string;
  message?: string;
  /** Orrivo's own number of the item. */
  number?: string;
}

export interface Rules {
  titleLimit: number;
  descriptionLimit: number;
  colours: string[];
  currency: string;
}

/** Words it does not print anywhere, and yet refuses. */
const stopList = ['miracle', 'cure', 'killed', 'kitchen'];

const refuse = (key: string, code: string, message: string): Answer => ({ key, outcome: 'refused', code, message });

export async function checkItems(
  items: OfferedItem[],
  rules: Rules,
  pictureLoads: (address: string) => Promise<boolean>,
  tell: (checked: number) => void,
): Promise<Answer[]> {
  const answers: Answer[] = [];
  const gtins = new Map<string, string>();
  const keys = new Set<string>();
  const pictures = new Map<string, boolean>();
  const addresses = [...new Set(items.flatMap((item) => item.image ?? []))];
  for (let from = 0; from < addresses.length; from += 12)
    await Promise.all(
      addresses.slice(from, from + 12).map(async (address) => pictures.set(address, await pictureLoads(address))),
    );
  for (const [position, item] of items.entries()) {
    const key = item.id?.[0] ?? '';
    if (position % 25 === 0) tell(position);
    if (neverAnswered(key)) continue;
    const answer = judge(item, key, rules, { gtins, keys, pictures });
    if (answer.outcome !== 'refused') answer.number = `OR${String(checksum(key)).padStart(9, '0')}`;
    answers.push(answer);
  }
  tell(items.length);
  return answers;
}

interface Seen {
  gtins: Map<string, string>;
  keys: Set<string>;
  pictures: Map<string, boolean>;
}

function judge(item: OfferedItem, key: string, rules: Rules, seen: Seen): Answer {
  const value = (name: string) => item[name]?.[0] ?? '';
  if (key === '') return refuse(key, 'no-id', 'The item has no id.');
  if (seen.keys.has(key)) return refuse(key, 'same-id-twice', `Id ${key} stands on another item of this file.`);
  seen.keys.add(key);
  for (const name of ['title', 'description', 'link', 'image', 'availability', 'price', 'condition', 'brand'])
    if (value(name) === '') return refuse(key, `no-${name}`, `The item has no ${name}.`);
  if (Array.from(value('title')).length > rules.titleLimit)
    return refuse(key, 'title-long', `The title has more than ${rules.titleLimit} characters.`);
  if (Array.from(value('description')).length > rules.descriptionLimit)
    return refuse(key, 'description-long', 'The description is too long.');
  if (/<[a-z]/i.test(value('description'))) return refuse(key, 'description-markup', 'The description holds markup.');
  const price = /^(\d+\.\d{2}) ([A-Z]{3})$/.exec(value('price'));
  if (!price || Number(price[1]) <= 0) return refuse(key, 'price', `“${value('price')}” is no price above zero.`);
  if (price[2] !== rules.currency) return refuse(key, 'currency', `This market is in ${rules.currency}.`);
  const sale = value('sale_price');
  if (sale !== '' && Number(sale.split(' ')[0]) >= Number(price[1]))
    return refuse(key, 'sale-price', 'The sale price is not below the price.');
  const stopped = stopList.find((word) => value('title').toLowerCase().includes(word));
  if (stopped) return refuse(key, 'word-not-allowed', `“${stopped}” may not stand in a title.`);
  const gtin = value('gtin');
  if (gtin !== '') {
    if (!trueGtin(gtin)) return refuse(key, 'gtin-wrong', `${gtin} has a wrong check digit.`);
    const other = seen.gtins.get(gtin.padStart(14, '0'));
    if (other) return refuse(key, 'gtin-twice', `GTIN ${gtin} is that of item ${other} as well.`);
    seen.gtins.set(gtin.padStart(14, '0'), key);
  } else if (value('mpn') === '') return refuse(key, 'no-identifier', 'Neither a GTIN nor an MPN.');
  if (value('colour') !== '' && !rules.colours.includes(value('colour')))
    return refuse(key, 'colour', `We do not know the colour “${value('colour')}”.`);
  if (seen.pictures.get(value('image')) === false)
    return refuse(key, 'image-not-loaded', `The picture at ${value('image')} could not be loaded.`);
  if (/\bplant(s)?\b.*\bplant(s)?\b/i.test(value('title')))
    return {
      key,
      outcome: 'warned',
      code: 'word-repeated',
      message: 'The title repeats a word; shoppers may see it shortened.',
    };
  if (value('category') === '')
    return { key, outcome: 'warned', code: 'no-category', message: 'Without a category the item is shown less often.' };
  return { key, outcome: 'accepted' };
}

/** GS1's check digit, worked out here on its own. */
function trueGtin(text: string): boolean {
  if (!/^(\d{8}|\d{12,14})$/.test(text)) return false;
  const digits = [...text].map(Number).reverse();
  const sum = digits.slice(1).reduce((total, digit, i) => total + digit * (i % 2 === 0 ? 3 : 1), 0);
  return (sum + (digits[0] ?? 0)) % 10 === 0;
}

function checksum(text: string): number {
  let sum = 5381;
  for (const letter of text) sum = (Math.imul(sum, 33) ^ letter.charCodeAt(0)) >>> 0;
  return sum % 1_000_000_000;
}

/** About one in a hundred is never heard of again. */
function neverAnswered(key: string): boolean {
  return checksum(key) % 97 === 13;
}
