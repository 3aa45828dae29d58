/** Every kind of job and of call, and what does it; a worker thread loads only what it needs. */
import type { Services } from '../http/route.js';
import { registerJob } from './run.js';

export function registerJobs(): void {
  registerJob('try-batch', async (context) => (await import('../intake/service.js')).tryJob(context));
  registerJob('find-effect', async (context) => (await import('../intake/effect.js')).findEffect(context));
  registerJob(
    'apply-batch',
    async (context) => (await import('../intake/apply.js')).applyBatch(context),
    async (context, error) => (await import('../intake/take-back.js')).applyFailed(context, error),
  );
  registerJob(
    'undo-batch',
    async (context) => (await import('../intake/undo.js')).undoJob(context),
    async (context, error) => (await import('../intake/undo.js')).undoFailed(context, error),
  );
  registerJob('pull-goods', async (context) => (await import('../intake/pull.js')).pullGoods(context));
  registerJob('join-numbers', async (context) => (await import('../matching/numbers.js')).joinNumbers(context));
  registerJob('find-matches', async (context) => (await import('../matching/propose.js')).findMatches(context));
  registerJob(
    'build-feed',
    async (context) => (await import('../feeds/service.js')).buildFeed(context),
    async (context, error) => (await import('../feeds/service.js')).buildFailed(context, error),
  );
  registerJob('offer-feed', async (context) => (await import('../feeds/report.js')).awaitReport(context));
}

/** What a request has done in a thread, and waits for. */
export type Call = (services: Services, input: never) => Promise<unknown>;

const calls = new Map<string, Call>();

export function callOf(name: string): (services: Services, input: unknown) => Promise<unknown> {
  const call = calls.get(name);
  if (!call) throw new Error(`There is no call “${name}”`);
  return call as (services: Services, input: unknown) => Promise<unknown>;
}

export function registerCalls(): void {
  calls.set('read-batch', async (services, input) => (await import('../intake/calls.js')).readCall(services, input));
  calls.set('correct-batch', async (services, input) =>
    (await import('../intake/calls.js')).correctCall(services, input),
  );
  calls.set('show-batch', async (services, input) => (await import('../intake/calls.js')).showCall(services, input));
  calls.set('try-change', async (services, input) =>
    (await import('../channels/calls.js')).changeCall(services, input),
  );
  calls.set('count-fills', async (services, input) =>
    (await import('../channels/calls.js')).countCall(services, input),
  );
}
