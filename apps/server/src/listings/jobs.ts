/** What listings have worked out in a thread while a request waits: fills, or a change of set-up, on every listing of a place. */
import type { Effect } from '@velvet-shelf/contract';
import type { Assortment, SetupChange } from '../channels/setup.js';
import type { Settled } from '../history/settle.js';
import { defineCall } from '../jobs/define.js';
import type { cellsAt as placeCells } from './cells.js';
import type { CountInput, FillCounts } from './fill-counts.js';
import type { GoodsInput, goodsOfFill as goodsBehind } from './fill-goods.js';
import type { tryPins as triedPins } from './pin-many.js';
import type { tryPresetMany as triedPreset } from './preset-many.js';
import type { PresetCounts, countPresets as counted } from './presets.js';
import type { tryAssortment as triedAssortment } from './what-if.js';
import type { tryRulebook as triedRulebook } from './rulebook.js';

export const countFills = defineCall<CountInput, FillCounts>({
  name: 'count-fills',
  run: async (services, input) => (await import('./fill-counts.js')).countFills(services, input),
});

export const goodsOfFill = defineCall<GoodsInput, Awaited<ReturnType<typeof goodsBehind>>>({
  name: 'goods-of-fill',
  run: async (services, input) => (await import('./fill-goods.js')).goodsOfFill(services, input),
});

/** How many listings each preset is applied to. */
export const countPresets = defineCall<Parameters<typeof counted>[1], PresetCounts>({
  name: 'count-presets',
  run: async (services, input) => (await import('./presets.js')).countPresets(services, input),
});

/** What a value pinned for many listings would do to them. */
export const tryPins = defineCall<Parameters<typeof triedPins>[1], Awaited<ReturnType<typeof triedPins>>>({
  name: 'try-pins',
  run: async (services, input) => (await import('./pin-many.js')).tryPins(services, input),
});

/** What putting the goods of many listings into a preset would do to them. */
export const tryPresetMany = defineCall<Parameters<typeof triedPreset>[1], Awaited<ReturnType<typeof triedPreset>>>({
  name: 'try-preset-many',
  run: async (services, input) => (await import('./preset-many.js')).tryPresetMany(services, input),
});

/** What a change of set-up would do to the listings of a place; nothing is written. */
export const tryChange = defineCall<
  { placeId: number; change: SetupChange },
  Effect & { splits: Record<string, number[]> }
>({
  name: 'try-change',
  run: async (services, { placeId, change }) => (await import('./what-if.js')).effectOf(services, placeId, change),
});

/** What another assortment would add and take away. */
export const tryAssortment = defineCall<
  { placeId: number; assortment: Assortment },
  Awaited<ReturnType<typeof triedAssortment>>
>({
  name: 'try-assortment',
  run: async (services, { placeId, assortment }) =>
    (await import('./what-if.js')).tryAssortment(services, placeId, assortment),
});

/** What another rulebook would do to them, and what would block that does not now. */
export const tryRulebook = defineCall<
  { placeId: number; rulebookId: number },
  Awaited<ReturnType<typeof triedRulebook>>
>({
  name: 'try-rulebook',
  run: async (services, { placeId, rulebookId }) =>
    (await import('./rulebook.js')).tryRulebook(services, placeId, rulebookId),
});

/** Evaluates what is marked, until so many variants are done. */
export const evaluateDirty = defineCall<number, Settled>({
  name: 'evaluate-dirty',
  run: async ({ db, config }, most) => (await import('./drain.js')).drain(db, config.address, most),
});

/** Cells of a sheet: what is sent for these goods at a place, or pinned. */
export const readPlaceCells = defineCall<
  { placeId: number; keys: string[]; products: number[] },
  Awaited<ReturnType<typeof placeCells>>
>({
  name: 'read-place-cells',
  run: async (services, input) => (await import('./cells.js')).cellsAt(services, input),
});

export const listingCalls = [
  readPlaceCells,
  countFills,
  countPresets,
  goodsOfFill,
  tryPins,
  tryPresetMany,
  tryAssortment,
  tryChange,
  tryRulebook,
  evaluateDirty,
];
