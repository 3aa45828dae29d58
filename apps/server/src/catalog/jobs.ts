/** What the catalog has done beside the requests. */
import { z } from 'zod';
import type { BulkSaid, Effect, OptionChange, TriedEffect, TriedOptions } from '@velvet-shelf/contract';
import type { User } from '../http/route.js';
import { defineCall, defineJob } from '../jobs/define.js';
import type { ProductEdits } from './edit.js';

const resolveInput = z.object({ action: z.number() });
export type ResolveInput = z.infer<typeof resolveInput>;

export const resolveEverything = defineJob({
  kind: 'resolve-all',
  input: resolveInput,
  run: async (context) => (await import('./resolve-all.js')).resolveAll(context),
});

export const tryCells = defineCall<{ user: number; products: ProductEdits[] }, TriedEffect>({
  name: 'try-cells',
  run: async (services, { user, products }) => (await import('./edit.js')).tryEdits(services, { id: user }, products),
});

export const saveCells = defineCall<{ user: User; products: ProductEdits[] }, Effect>({
  name: 'save-cells',
  run: async (services, { user, products }) => (await import('./edit.js')).saveEdits(services, user, products),
});

export const sayCells = defineCall<{ user: User; said: BulkSaid }, Effect & { goods: number }>({
  name: 'say-of-many',
  run: async (services, { user, said }) => (await import('./said.js')).sayOfMany(services, user, said),
});

export const tryOptionChange = defineCall<{ user: number; family: number; change: OptionChange }, TriedOptions>({
  name: 'try-options',
  run: async (services, { user, family, change }) =>
    (await import('./options.js')).tryOptions(services, { id: user }, family, change),
});

type SaidOfMany = { user: number; said: BulkSaid };
export const trySaid = defineCall<SaidOfMany, TriedEffect & { goods: number; others: number }>({
  name: 'try-said',
  run: async (services, { user, said }) => (await import('./said.js')).trySayingOfMany(services, { id: user }, said),
});

export const catalogJobs = [resolveEverything];
export const catalogCalls = [tryCells, saveCells, sayCells, tryOptionChange, trySaid];
