/** Taking set-up back: what an action changed, where nobody has changed it since. */
import { canonical } from '@velvet-shelf/core/values';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { currentFill, fillDeltaSchema, writeFill } from './fills.js';
import { type CategoryMap, mapDeltaSchema, mapOf, mappedOf, writeMaps } from './maps.js';

/** Puts a fill back where it still is as the action left it. */
export async function undoFill(undoing: Undoing): Promise<Undone> {
  const left: string[] = [];
  for (const { id, delta } of await changesOf(undoing.tx, undoing.actionId, 'channel', fillDeltaSchema)) {
    const [before, after] = delta.fills;
    for (const [i, slot] of after.entries())
      if (canonical(await currentFill(undoing.tx, id, slot)) === canonical(slot.fill))
        await writeFill(undoing, id, slot, before[i]?.fill ?? null);
      else left.push(`the fill of ${slot.attribute}: changed since`);
  }
  return { left };
}

/** Puts category maps back, each that still is as the action left it. */
export async function undoMaps(undoing: Undoing): Promise<Undone> {
  const left: string[] = [];
  for (const { id, delta } of await changesOf(undoing.tx, undoing.actionId, 'channel', mapDeltaSchema)) {
    const [before, after] = delta.maps;
    const back: CategoryMap[] = [];
    for (const [i, map] of after.entries()) {
      const was = before[i];
      if (was && canonical(await mapOf(undoing.tx, id, map)) === canonical(mappedOf(map))) back.push(was);
      else left.push(`${map.category}: mapped again since`);
    }
    await writeMaps(undoing, id, back);
  }
  return { left };
}
