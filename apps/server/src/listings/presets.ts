/** How many listings of a place each preset is applied to; of presets that are tried, what becomes of listings too. */
import type { Effect, PresetAnswer, PresetBody } from '@velvet-shelf/contract';
import { asPreset, describePresets, expectPresets } from '../channels/presets.js';
import { addEffects } from '../history/effect.js';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { kept, nameOf } from '../kept/keep.js';
import { walkFills } from './fill-walk.js';
import { countPresets as counting } from './jobs.js';
import { effectElsewhere } from './what-if.js';

export interface PresetCounts {
  /** By number of the preset. */
  goods: Record<number, number>;
  effect: Effect;
}

/** In a thread: evaluates every listing of the place; with `presets`, as if these were saved. */
export async function countPresets(
  services: Services,
  { placeId, presets }: { placeId: number; presets?: readonly PresetBody[] },
): Promise<PresetCounts> {
  const change = presets && { presets: presets.map(asPreset) };
  const walk = await walkFills(services, { placeId, change });
  const goods: Record<number, number> = {};
  for await (const walked of walk.listings())
    if (walked.result.standing === 'in') for (const id of walked.presets()) goods[id] = (goods[id] ?? 0) + 1;
  const { db, config } = services;
  const effect = change
    ? addEffects(walk.effect, await effectElsewhere(db, walk.place, walk.dictionary, config.address, change))
    : walk.effect;
  return { goods, effect };
}

export async function listPresets(services: Services, placeId: number): Promise<PresetAnswer[]> {
  const described = await describePresets(services.db, placeId);
  if (described.length === 0) return [];
  const { goods } = await kept(services, nameOf('presets', { placeId }), () => apart(counting, services, { placeId }));
  return described.map((preset) => ({ ...preset, goods: goods[preset.id] ?? 0 }));
}

export async function tryPresets(
  services: Services,
  placeId: number,
  presets: readonly PresetBody[],
): Promise<{ goods: number[]; effect: Effect }> {
  await expectPresets(services.db, presets, 'presets');
  const { goods, effect } = await apart(counting, services, { placeId, presets });
  return { goods: presets.map((preset, i) => goods[asPreset(preset, i).id] ?? 0), effect };
}
