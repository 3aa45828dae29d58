/** Taking set-up back: what an action changed, where nobody has changed it since. */
import type { Fill } from '@velvet-shelf/core/fills';
import type { Undoing, Undone } from '../history/undo.js';
import { writeFill, currentFill } from './fills.js';
import { placesOf } from './service.js';
import { z } from 'zod';
import { changesOf } from '../history/record.js';
import { mapOf, writeMap } from './maps.js';

const setupDelta = z.record(z.string(), z.tuple([z.unknown(), z.unknown()]));

/** Takes a change of set-up back where it still stands. */
export async function undoSetup({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const changes = await changesOf(tx, actionId, 'channel', setupDelta);
  const left: string[] = [];
  for (const { id, delta } of changes)
    for (const [field, [before, after]] of Object.entries(delta)) {
      const name = field.slice(field.indexOf(':') + 1);
      if (field.startsWith('fill:')) {
        const current = await currentFill(tx, id, name);
        if (JSON.stringify(current) === JSON.stringify(after))
          await writeFill({ tx, dirtyPlace }, id, name, before as Fill | null);
        else left.push(`the fill of ${name}: changed since`);
      } else if (field.startsWith('map:')) {
        const current = await mapOf(tx, id, name);
        if (current !== after) {
          left.push(`${name}: mapped again since`);
          continue;
        }
        await writeMap(tx, id, name, z.string().nullable().parse(before));
        for (const placeId of await placesOf(tx, id)) await dirtyPlace(placeId, { categories: [name] });
      }
    }
  return { left };
}
