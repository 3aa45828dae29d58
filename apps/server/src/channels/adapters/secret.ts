/** A channel that is joined with an id and its secret, and takes files afterwards. */
import { readAccount, tokenForSecret, tokenRenewed } from './joining.js';
import type { ChannelAdapter } from './model.js';

export const secret: ChannelAdapter = {
  kind: 'secret',
  join: { by: 'secret', exchange: tokenForSecret },
  renew: tokenRenewed,
  account: readAccount,
};
