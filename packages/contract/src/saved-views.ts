/** Views of the catalog that people keep: their own, or everybody's. */
import { z } from 'zod';
import { viewSchema } from './catalog.js';
import { endpoint, idParam } from './endpoint.js';

/** A column of the grid: pixels where it was sized, and whether it stays in sight. */
export const keptColumnSchema = z.object({
  key: z.string().min(1).max(200),
  width: z.number().int().min(40).max(800).optional(),
  isFrozen: z.boolean().optional(),
});

const keptFields = z.object({
  name: z.string().trim().min(1, 'Give the view a name').max(60),
  /** Others see it too. */
  isShared: z.boolean(),
  /** Stands as a button above the goods. */
  isToHand: z.boolean(),
  view: viewSchema,
  /** In their order; null: those of whoever looks. */
  columns: z.array(keptColumnSchema).max(100).nullable().default(null),
});
export type KeptFields = z.output<typeof keptFields>;

export const savedViewSchema = keptFields.extend({
  id: z.number(),
  isMine: z.boolean(),
  /** Whose it is. */
  owner: z.string(),
});
export type SavedView = z.infer<typeof savedViewSchema>;

export const savedViews = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/saved-views',
    summary: 'Views of the catalog that I keep, and those everybody sees, by name',
    answer: z.object({ items: z.array(savedViewSchema) }),
  }),
  keep: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/saved-views',
    summary: 'Keep a view under a name',
    body: keptFields,
    answer: z.object({ id: z.number() }),
  }),
  change: endpoint({
    role: 'editor',
    method: 'PATCH',
    path: '/api/saved-views/:id',
    summary: 'Rename a view of mine, show it to others or not, keep it to hand, or have it show something else',
    params: idParam,
    body: z.object({ to: keptFields.partial(), was: keptFields.partial() }),
    answer: z.object({}),
  }),
  remove: endpoint({
    role: 'editor',
    method: 'DELETE',
    path: '/api/saved-views/:id',
    summary: 'Remove a view of mine; goods stay as they are',
    params: idParam,
    answer: z.object({}),
  }),
};
