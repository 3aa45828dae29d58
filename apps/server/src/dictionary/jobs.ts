/** What the dictionary has done beside the requests. */
import type { TriedKind, WantedKind } from '@velvet-shelf/contract';
import { defineCall } from '../jobs/define.js';

export const tryKindAside = defineCall<{ id: number; wanted: WantedKind }, TriedKind>({
  name: 'try-kind',
  run: async ({ db }, { id, wanted }) => (await import('./kind.js')).tryKind(db, id, wanted),
});

export const dictionaryCalls = [tryKindAside];
