/** A value as the channel attribute's type has it. Text that cannot be read so stays as it is, and the check of kinds says so. */
import { type ChannelAttribute, type ChannelValue, sayChannelValue, yesNo } from '../rulebooks/index.js';
import { parseMoney, plainStyle, toMinor, unitCode } from '../values/index.js';

type Typing = (value: ChannelValue) => ChannelValue;

const figure = /^-?\d+(?:\.\d+)?$/;
const measure = /^(-?\d+(?:\.\d+)?) (\S.*)$/;
const day = /^\d{4}-\d{2}-\d{2}$/;

/** `currency` is the market's: what a bare amount is in. */
export function typing({ type, many }: ChannelAttribute, currency: string): Typing {
  switch (type) {
    case 'number':
      return fromText((text) => (figure.test(text) ? Number(text) : text));
    case 'money':
      return inCurrency(currency);
    case 'measure':
      return fromText((text) => {
        const [, amount = '', written = ''] = measure.exec(text) ?? [];
        const unit = unitCode(written);
        return unit === undefined ? text : { kind: 'measure', amount, unit };
      });
    case 'date':
      return fromText((text) => (day.test(text) ? { kind: 'date', day: text } : text));
    case 'boolean':
      return fromText((text) => (text === yesNo[0] ? true : text === yesNo[1] ? false : text));
    case 'picture':
      return fromText((address) => ({ kind: 'pictures', pictures: [{ address }] }));
    case 'text':
    case 'choice':
    case 'link':
    case 'gtin':
    case 'category':
      return many ? asTexts : sayChannelValue;
  }
}

/** An empty text is no value, whatever it was to be. */
const fromText =
  (read: (text: string) => ChannelValue): Typing =>
  (value) =>
    typeof value === 'string' && value !== '' ? read(value) : value;

/** A channel is asked in its market's currency: an amount in another one is no amount there, and stays as it is written. */
function inCurrency(currency: string): Typing {
  const read = fromText((text) => readMoney(text, currency));
  return (given) => {
    const value = read(given);
    const isForeign = typeof value === 'object' && value.kind === 'money' && value.currency !== currency;
    return isForeign ? sayChannelValue(value) : value;
  };
}

function readMoney(text: string, currency: string): ChannelValue {
  const read = parseMoney(text, plainStyle);
  const amount = figure.test(text) ? { amount: text, currency } : read.ok && !read.notes ? read.value : undefined;
  return amount ? { kind: 'money', minor: toMinor(amount.amount, amount.currency), currency: amount.currency } : text;
}

/** One text is a list of one. */
const asTexts: Typing = (value) => {
  if (typeof value === 'object' && value.kind === 'texts') return value;
  const text = sayChannelValue(value);
  return text === '' ? text : { kind: 'texts', texts: [text] };
};

/** Of a list, as many as are sent. */
export function firstOf(value: ChannelValue, most: number | undefined): ChannelValue {
  if (most === undefined || typeof value !== 'object') return value;
  if (value.kind === 'texts')
    return value.texts.length > most ? { ...value, texts: value.texts.slice(0, most) } : value;
  if (value.kind !== 'pictures' || value.pictures.length <= most) return value;
  return { ...value, pictures: value.pictures.slice(0, most) };
}
