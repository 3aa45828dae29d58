/** A channel that is told an address first, and gives a token once what stands there is enough for it. */
import { readAccount } from './joining.js';
import type { ChannelAdapter } from './model.js';

export const address: ChannelAdapter = { kind: 'address', join: { by: 'address' }, account: readAccount };
