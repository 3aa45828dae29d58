/** How an account stands, in words and marks. */
import type { AccountAnswer } from '@velvet-shelf/contract';

export const stateWords: Record<AccountAnswer['state'], { words: string; is: string }> = {
  connected: { words: 'connected', is: 'live' },
  pending: { words: 'waiting for the channel', is: 'held' },
  off: { words: 'not connected', is: 'none' },
  expired: { words: 'not let in any more', is: 'blocked' },
};
