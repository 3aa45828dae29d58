/** Every kind of channel there is. */
import { address } from './address.js';
import { consent } from './consent.js';
import { fetching } from './fetching.js';
import type { ChannelAdapter } from './model.js';
import { secret } from './secret.js';
import { shop } from './shop.js';

const adapters = new Map(
  [fetching, shop, consent, secret, address].map((adapter): [string, ChannelAdapter] => [adapter.kind, adapter]),
);

/** Throws where there is none of this kind: a channel is only ever set up with one there is. */
export function adapterOf(kind: string): ChannelAdapter {
  const adapter = adapters.get(kind);
  if (!adapter) throw new Error(`There is no adapter “${kind}”`);
  return adapter;
}

export {
  type AccountReport,
  type ChannelReport,
  type Credentials,
  type GoodsPage,
  NotLetIn,
  type Outside,
  credentialsSchema,
} from './model.js';
export { shop };
