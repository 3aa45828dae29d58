/** Required of some items only: a rulebook's condition over the item's own channel values. */
import { compileCondition } from '../conditions/index.js';
import type { ChannelAttribute, ChannelValue, Item, Rulebook } from '../rulebooks/index.js';
import { type Attribute, type Value, fromMinor, makeMeasure } from '../values/index.js';

/** Undefined where the attribute is asked of all items alike. */
export function compileRequiredWhen(
  { requiredWhen }: ChannelAttribute,
  { attributes }: Rulebook,
): ((item: Item) => boolean) | undefined {
  if (!requiredWhen) return undefined;
  const dictionary = new Map(attributes.map((attribute) => [attribute.key, comparable(attribute)]));
  return compileCondition<Item>(requiredWhen, dictionary, (item, key) => {
    const value = item[key];
    return value === undefined ? undefined : comparableValue(value);
  });
}

/** A channel attribute as conditions know attributes. */
function comparable({ key, label, type, many = false, limits }: ChannelAttribute): Attribute {
  // A rulebook compares amounts as figures in the market's currency.
  const own: Partial<Record<ChannelAttribute['type'], Attribute['type']>> = {
    number: 'number',
    measure: 'measure',
    money: 'number',
    date: 'date',
    boolean: 'boolean',
  };
  return {
    key,
    label,
    type: own[type] ?? 'text',
    many: many || type === 'picture',
    perLanguage: false,
    level: 'variant',
    group: '',
    ...(limits.values ? { choices: limits.values } : {}),
  };
}

function comparableValue(value: ChannelValue): Value {
  if (typeof value !== 'object') return value;
  switch (value.kind) {
    case 'texts':
      return [...value.texts];
    case 'money':
      return Number(fromMinor(value.minor, value.currency));
    case 'measure':
      return makeMeasure(value.amount, value.unit);
    case 'date':
      return value.day;
    case 'pictures':
      return value.pictures.map(({ address }) => address);
  }
}
