/** What causes have worked out in a thread while a request waits. */
import type { Effect, Fix } from '@velvet-shelf/contract';
import { defineCall } from '../jobs/define.js';

/** What a fix would do to the listings its cause touches; nothing is kept. */
export const tryFix = defineCall<{ key: string; fix: Fix; user: number }, Effect>({
  name: 'try-fix',
  run: async (services, { key, fix, user }) => (await import('./fix.js')).tryFix(services, { id: user }, key, fix),
});

export const causeCalls = [tryFix];
