/** A channel that is joined on a page of its own, where a person agrees (RFC 6749, with RFC 7636), and takes batches afterwards. */
import { readAccount, readPlacing, tokenForCode, tokenRenewed } from './joining.js';
import type { ChannelAdapter } from './model.js';

export const consent: ChannelAdapter = {
  kind: 'consent',
  join: {
    by: 'consent',
    page: ({ address }, asked) => {
      const url = new URL(`${address}/consent`);
      for (const [name, value] of Object.entries(asked)) url.searchParams.set(name, value);
      return url.href;
    },
    exchange: tokenForCode,
  },
  renew: tokenRenewed,
  account: readAccount,
  placing: readPlacing,
};
