/** Presets: named bundles of fills of a channel, for goods that a condition holds of, and those put in by hand. */
import { conditionSchema } from '@velvet-shelf/core/conditions';
import { z } from 'zod';
import { effectSchema } from './effect.js';
import { endpoint, idParam } from './endpoint.js';
import { toldFillSchema } from './fills.js';
import { handSchema, handedSchema } from './own-channels.js';

const presetSchema = z.object({
  /** Null: a new one. */
  id: z.number().int().positive().nullable(),
  name: z.string().trim().min(1, 'Give it a name').max(120),
  /** Null: by hand alone. */
  condition: conditionSchema.nullable(),
  hand: handSchema,
});
export type PresetBody = z.infer<typeof presetSchema>;

/** All of a channel, the one that stands before the others first. */
const presetList = z
  .array(presetSchema)
  .max(200)
  .refine(
    (all) => new Set(all.map(({ name }) => name.toLowerCase())).size === all.length,
    'Two presets have the same name',
  );

const presetAnswer = presetSchema.extend({
  id: z.number(),
  hand: z.array(handedSchema),
  /** Listings of the place it is applied to. */
  goods: z.number(),
  fills: z.array(toldFillSchema),
});
export type PresetAnswer = z.infer<typeof presetAnswer>;

export const presetEndpoints = {
  presets: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/places/:id/presets',
    summary: 'Presets of the place’s channel in the order they are asked, with the listings each is applied to',
    params: idParam,
    answer: z.object({ items: z.array(presetAnswer) }),
  }),
  tryPresets: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/places/:id/presets/try',
    summary: 'What other presets would be applied to, and do to how listings stand, not saved',
    params: idParam,
    body: z.object({ presets: presetList }),
    answer: z.object({ goods: z.array(z.number()), effect: effectSchema }),
  }),
  savePresets: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/places/:id/presets',
    summary: 'Make, change, order and take away the presets of the place’s channel',
    params: idParam,
    body: z.object({ to: presetList, was: z.array(presetSchema) }),
    answer: effectSchema,
  }),
};
