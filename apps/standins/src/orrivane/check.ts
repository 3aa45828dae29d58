/** Orrivane's own judgement of an item: what it publishes, and some things it does not say beforehand. */
import type { OfferedItem } from './feed.js';

export interface Answer {
  key: string;
  outcome: 'accepted' | 'warned' | 'refused';
  code?: string;
  message?: string;
  /** Orrivane's own number of the item. */
  number?: string;
}

export interface Rules {
  shortest: number;
  longest: number;
  longestLong: number;
  shades: string[];
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
  const addresses = [...new Set(items.flatMap(({ views }) => views.slice(0, 1)))];
  for (let from = 0; from < addresses.length; from += 12)
    await Promise.all(
      addresses.slice(from, from + 12).map(async (address) => pictures.set(address, await pictureLoads(address))),
    );
  for (const [position, item] of items.entries()) {
    const key = item.codes.own ?? '';
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
  const no = (code: string, message: string) => refuse(key, code, message);
  if (!/^[A-Za-z0-9.-]{1,36}$/.test(key)) return no('no-own-code', 'The piece has no code of yours that we can keep.');
  if (seen.keys.has(key)) return no('own-code-twice', `Code ${key} stands on another piece of this list.`);
  seen.keys.add(key);
  return (
    judgeTerms(item, rules, no) ??
    judgeWords(item, rules, no) ??
    judgeCodes(item, key, rules, seen, no) ??
    warn(item, key) ?? { key, outcome: 'accepted' }
  );
}

type No = (code: string, message: string) => Answer;

function judgeTerms(item: OfferedItem, { currency }: Rules, no: No): Answer | undefined {
  if (!/^\d+\.\d{2}$/.test(item.asks) || Number(item.asks) <= 0)
    return no('asks', `“${item.asks}” is nothing one can ask for a piece.`);
  if (item.currency !== currency) return no('currency', `This market is in ${currency}.`);
  if (item.askedBefore !== undefined && Number(item.askedBefore) <= Number(item.asks))
    return no('asked-before', 'What was asked before is not more than what is asked now.');
  if (item.leavesIn !== undefined && !/^\d{1,2}$/.test(item.leavesIn))
    return no('leaves-in', `“${item.leavesIn}” is no number of days.`);
  if (item.grade !== undefined && !['opened', 'mended', 'worn'].includes(item.grade))
    return no('grade', `We do not know the grade “${item.grade}”.`);
  if (item.parcel !== undefined && !/^\d+$/.test(item.parcel)) return no('parcel', 'A parcel is in whole grams.');
  return undefined;
}

function judgeWords(item: OfferedItem, rules: Rules, no: No): Answer | undefined {
  const length = Array.from(item.short).length;
  if (length < rules.shortest || length > rules.longest)
    return no(
      'short-words',
      `The short words have ${length} characters; ${rules.shortest} to ${rules.longest} are taken.`,
    );
  if (Array.from(item.long).length > rules.longestLong) return no('long-words', 'The long words are too many.');
  if (item.long === '') return no('no-long-words', 'The piece has no long words.');
  if (/<[a-z]/i.test(item.long)) return no('markup', 'The long words hold markup.');
  if (item.facts.length > 20) return no('facts', 'More than 20 facts.');
  if (!/^https?:\/\/[^\s/]/.test(item.page)) return no('no-page', 'The piece has no page.');
  const stopped = stopList.find((word) => item.short.toLowerCase().includes(word));
  return stopped ? no('word-not-printed', `We do not print “${stopped}”.`) : undefined;
}

function judgeCodes(item: OfferedItem, key: string, rules: Rules, seen: Seen, no: No): Answer | undefined {
  if (item.maker === '') return no('no-maker', 'The piece has no maker.');
  const { gtin } = item.codes;
  if (gtin !== undefined) {
    if (!trueGtin(gtin)) return no('gtin-wrong', `${gtin} has a wrong check digit.`);
    const other = seen.gtins.get(gtin.padStart(14, '0'));
    if (other) return no('gtin-twice', `GTIN ${gtin} is that of piece ${other} as well.`);
    seen.gtins.set(gtin.padStart(14, '0'), key);
  }
  const differs = Object.keys(item.kin?.differs ?? {}).length > 0;
  const told = [gtin !== undefined, item.codes['maker-number'] !== undefined, item.kin !== undefined && differs];
  if (told.filter(Boolean).length < 2) return no('not-told', 'Too little tells this piece from others.');
  const shade = item.kin?.differs.shade;
  if (shade !== undefined && !rules.shades.includes(shade)) return no('shade', `We do not know the shade “${shade}”.`);
  const [view] = item.views;
  if (view === undefined) return no('no-view', 'The piece has no view.');
  return seen.pictures.get(view) === false
    ? no('view-not-loaded', `The view at ${view} could not be loaded.`)
    : undefined;
}

function warn(item: OfferedItem, key: string): Answer | undefined {
  const warned = (code: string, message: string): Answer => ({ key, outcome: 'warned', code, message });
  if (/\bplant(s)?\b.*\bplant(s)?\b/i.test(item.short))
    return warned('word-repeated', 'The short words repeat a word; shoppers may see them shortened.');
  return item.shelf === undefined ? warned('no-shelf', 'On no shelf the piece is shown less often.') : undefined;
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
