/** Channel values as people and files read them. */
import type { ChannelValue } from '../checks/index.js';
import type { ChannelAttribute } from '../rulebooks/index.js';
import { fromMinor } from '../values/index.js';

/** Money is in minor units while it is worked on: here they are left as they are. */
export function sayValue(value: ChannelValue): string {
  return Array.isArray(value) ? value.map((picture) => picture.address).join(', ') : String(value);
}

/** Minor units as amount and currency. */
export const sayMoney = (value: ChannelValue, currency: string): string =>
  typeof value === 'number' ? `${fromMinor(value, currency)} ${currency}` : sayValue(value);

/** A value of this attribute: money as amount and currency. */
export const sayChannelValue = (value: ChannelValue, attribute: ChannelAttribute, currency: string): string =>
  attribute.type === 'money' ? sayMoney(value, currency) : sayValue(value);
