/** What intake has done beside the requests: jobs, and calls a request waits for because looking at a file takes longer than others may wait. */
import type { BatchAnswer } from '@velvet-shelf/contract';
import type { Scope } from '@velvet-shelf/core/intake';
import { z } from 'zod';
import { defineCall, defineJob } from '../jobs/define.js';
import type { GivenKind } from '../db/schema/index.js';
import type { ReceivedFile } from '../http/receive.js';
import type { Correction } from './read/take-in.js';

const batchOf = z.object({ batch: z.number() });

export const tryBatch = defineJob({
  kind: 'try-batch',
  input: batchOf,
  run: async (context) => (await import('./service.js')).tryJob(context),
});

const effectInput = batchOf.extend({ joinsToo: z.boolean().optional() });
export type EffectInput = z.infer<typeof effectInput>;
export const findEffect = defineJob({
  kind: 'find-effect',
  input: effectInput,
  run: async (context) => (await import('./try/effect.js')).findEffect(context),
});

/** `action` is what it does, `user` whose doing it is. */
const doneBy = batchOf.extend({ action: z.number(), user: z.number() });

const applyInput = doneBy.extend({ started: z.string() });
export type ApplyInput = z.infer<typeof applyInput>;
export const applyBatch = defineJob({
  kind: 'apply-batch',
  input: applyInput,
  run: async (context) => (await import('./apply/apply.js')).applyBatch(context),
  failed: async (context, fault) => (await import('./apply/take-back.js')).applyFailed(context, fault),
});

export type UndoInput = z.infer<typeof doneBy>;
export const undoBatch = defineJob({
  kind: 'undo-batch',
  input: doneBy,
  run: async (context) => (await import('./apply/undo.js')).undoJob(context),
  failed: async (context, fault) => (await import('./apply/undo.js')).undoFailed(context, fault),
});

const pullInput = z.object({ pull: z.number(), actor: z.number() });
export type PullInput = z.infer<typeof pullInput>;
export const pullGoods = defineJob({
  kind: 'pull-goods',
  input: pullInput,
  run: async (context) => (await import('./pull/fetch.js')).pullGoods(context),
});

const settleInput = z.object({ action: z.number() });
export type SettleInput = z.infer<typeof settleInput>;
export const settleSupplier = defineJob({
  kind: 'settle-supplier',
  input: settleInput,
  run: async (context) => (await import('./suppliers/settle.js')).settleSupplier(context),
});

export interface ReadInput {
  file: ReceivedFile;
  how?: { kind?: GivenKind; scope?: Scope } | undefined;
}
export const readFile = defineCall<ReadInput, number>({
  name: 'read-batch',
  run: async (services, { file, how }) => (await import('./read/take-in.js')).readBatch(services, file, how),
});

export const correctFile = defineCall<{ id: number; change: Correction }, undefined>({
  name: 'correct-batch',
  run: async (services, { id, change }) => {
    await (await import('./read/take-in.js')).correctBatch(services, id, change);
    return undefined;
  },
});

export const lookAt = defineCall<{ id: number; locale: string | undefined }, BatchAnswer>({
  name: 'show-batch',
  run: async (services, { id, locale }) => (await import('./show.js')).showBatch(services, id, locale),
});

export const intakeJobs = [tryBatch, findEffect, applyBatch, undoBatch, pullGoods, settleSupplier];
export const intakeCalls = [readFile, correctFile, lookAt];
