/** Amounts of money as people write them, in exact decimals with their currency (ISO 4217). */
import type { Money, Parsed, ReadingStyle } from './model.js';
import { parseDecimal } from './numbers.js';

const currencies: ReadonlySet<string> = new Set(Intl.supportedValuesOf('currency'));

/** Whether these three letters are a currency. */
export const isCurrency = (code: string): boolean => currencies.has(code.toUpperCase());

/** Signs and words of currencies in small letters; one that stands for several means the column's, where that is among them. */
const marks: Record<string, string[]> = {
  '£': ['GBP'],
  '€': ['EUR'],
  '¥': ['JPY', 'CNY'],
  '￥': ['JPY', 'CNY'],
  '₹': ['INR'],
  '₽': ['RUB'],
  '₺': ['TRY'],
  '₴': ['UAH'],
  '₩': ['KRW'],
  '₪': ['ILS'],
  '₫': ['VND'],
  '₱': ['PHP'],
  '฿': ['THB'],
  '₦': ['NGN'],
  '₡': ['CRC'],
  '₲': ['PYG'],
  '₸': ['KZT'],
  $: ['USD', 'CAD', 'AUD', 'NZD', 'SGD', 'HKD', 'MXN', 'CLP', 'COP', 'ARS', 'TWD'],
  us$: ['USD'],
  c$: ['CAD'],
  ca$: ['CAD'],
  a$: ['AUD'],
  au$: ['AUD'],
  nz$: ['NZD'],
  hk$: ['HKD'],
  s$: ['SGD'],
  r$: ['BRL'],
  mx$: ['MXN'],
  nt$: ['TWD'],
  kr: ['SEK', 'NOK', 'DKK', 'ISK'],
  skr: ['SEK'],
  nkr: ['NOK'],
  dkr: ['DKK'],
  kronor: ['SEK'],
  kroner: ['NOK', 'DKK'],
  krona: ['SEK', 'ISK'],
  zł: ['PLN'],
  zl: ['PLN'],
  kč: ['CZK'],
  kc: ['CZK'],
  ft: ['HUF'],
  lei: ['RON', 'MDL'],
  leu: ['RON', 'MDL'],
  лв: ['BGN'],
  fr: ['CHF'],
  sfr: ['CHF'],
  rs: ['INR'],
  euro: ['EUR'],
  euros: ['EUR'],
  pound: ['GBP'],
  pounds: ['GBP'],
  'pounds sterling': ['GBP'],
  pfund: ['GBP'],
  pund: ['GBP'],
  dollar: ['USD'],
  dollars: ['USD'],
  'us dollars': ['USD'],
  franken: ['CHF'],
  francs: ['CHF'],
  schweizerfranc: ['CHF'],
  yen: ['JPY'],
  zloty: ['PLN'],
  zlotych: ['PLN'],
  forint: ['HUF'],
  rupees: ['INR'],
};
/** Currencies that a sign or word may stand for, the likeliest first; none where it stands for none. */
export const currenciesBySign = (sign: string): readonly string[] =>
  Object.hasOwn(marks, sign.toLowerCase()) ? (marks[sign.toLowerCase()] ?? []) : [];

/** Signs and words of the hundredth part. */
const minor: Record<string, string[]> = {
  p: ['GBP'],
  pence: ['GBP'],
  penny: ['GBP'],
  ct: ['EUR'],
  cent: ['EUR', 'USD'],
  cents: ['EUR', 'USD'],
  '¢': ['USD'],
  öre: ['SEK'],
  ore: ['SEK', 'NOK', 'DKK'],
  øre: ['NOK', 'DKK'],
  rappen: ['CHF'],
};

/** Letters, or one sign: what may be a currency. */
const word = String.raw`(?:\p{L}{1,4}\$|\p{Sc}|¢|￥|\p{L}[\p{L} ]*\.?)`;
const shape = new RegExp(
  String.raw`^(${word})?\s*([-−–+(]?)\s*(${word})?\s*([\d.,'’\u00a0\u202f\u2009 ]*\d|[.,]\d+)\s*(?:[:.,]\s?[-–—]+|[,.]=)?\s*(\)?)([-−]?)\s*(${word})?\s*(${word})?$`,
  'u',
);

/** No shop asks for more, and the database keeps no more. */
const largest = 1e10;

/**
 * Reads "£6.99", "EUR 1.234,50", "249:-", "1 249 kr", "50p", "-12,50 €". Refused, with the reason: two currencies in one cell,
 * letters that are no currency, and another currency than the column's. A sign that several countries share is noted.
 */
export function parseMoney(raw: string, style: ReadingStyle): Parsed<Money> {
  const no = (reason: string): Parsed<Money> => ({ ok: false, reason });
  const text = raw.trim().replace(/\s+/g, ' ');
  const match = shape.exec(text);
  if (!match) return no(`“${raw}” is not a price`);
  const [, before, sign, between, figure = '', close, trailing, after, last] = match;
  if ((sign === '(') !== (close === ')')) return no(`“${raw}” is not a price`);
  const written = [before, between, after, last].flatMap((row) => row?.trim().toLowerCase() ?? []).filter(Boolean);
  const expected = style.currency?.toUpperCase();
  const named: Named[] = [];
  for (const text of written) {
    const read = currencyOf(text, expected);
    if ('reason' in read) return no(`“${raw}” ${read.reason}`);
    named.push(read);
  }
  const codes = new Set(named.map(({ code }) => code));
  if (codes.size > 1) return no(`“${raw}” names two currencies, ${[...codes].join(' and ')}; give one`);
  const currency = named[0]?.code ?? expected;
  const amount = parseDecimal(figure, style);
  if (!amount.ok) return no(`“${raw}” is not a price`);
  if (!currency)
    return no(
      `“${raw}” has no currency; name it in the column’s header or beside the amount, or say once which the file is in`,
    );
  if (!isCurrency(currency)) return no(`“${currency}” is not a currency (ISO 4217)`);
  if (named.length > 0 && expected && currency !== expected)
    return no(`“${raw}” is in ${currency}, the column is in ${expected}`);
  const isNegative = (sign !== '' && sign !== '+') || trailing !== '';
  const decimal = named.some(({ isMinor }) => isMinor) ? hundredth(amount.value) : amount.value;
  if (Number(decimal) >= largest) return no(`“${raw}” is more than anything costs`);
  const notes = named.flatMap(({ note }) => note ?? []);
  const value = {
    amount: isNegative && Number(decimal) !== 0 ? `-${decimal}` : decimal,
    currency,
  };
  return notes.length > 0 ? { ok: true, value, notes } : { ok: true, value };
}

type Named = { code: string; isMinor: boolean; note?: string };

function currencyOf(written: string, expected: string | undefined): Named | { reason: string } {
  const bare = written.replace(/\.$/, '');
  if (/^[a-z]{3}$/.test(bare) && isCurrency(bare) && !Object.hasOwn(marks, bare))
    return { code: bare.toUpperCase(), isMinor: false };
  const isMinor = Object.hasOwn(minor, bare);
  const choices = isMinor ? minor[bare] : Object.hasOwn(marks, bare) ? marks[bare] : undefined;
  if (!choices) return { reason: `holds “${written}”, which is not a currency` };
  const meant = choices.find((code) => code === expected);
  if (meant) return { code: meant, isMinor };
  const [first = '', ...others] = choices;
  const note = `took “${written}” for ${first}; ${others.slice(0, 3).join(', ')} are written so too`;
  return others.length > 0 && expected === undefined ? { code: first, isMinor, note } : { code: first, isMinor };
}

/** "50" → "0.5", exactly. */
function hundredth(amount: string): string {
  const [whole = '0', part = ''] = amount.split('.');
  const digits = whole.padStart(3, '0');
  const moved = `${digits.slice(0, -2)}.${digits.slice(-2)}${part}`;
  return moved
    .replace(/^0+(?=\d)/, '')
    .replace(/0+$/, '')
    .replace(/\.$/, '');
}
