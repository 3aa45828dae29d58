/** Every kind of job and what does it; a worker thread loads only what its job needs. */
import { registerJob } from './run.js';

export function registerJobs(): void {
  registerJob('try-batch', async (context) => (await import('../intake/service.js')).tryJob(context));
  registerJob('find-effect', async (context) => (await import('../intake/effect.js')).findEffect(context));
  registerJob(
    'apply-batch',
    async (context) => (await import('../intake/apply.js')).applyBatch(context),
    async (context, error) => (await import('../intake/apply.js')).applyFailed(context, error),
  );
  registerJob(
    'undo-batch',
    async (context) => (await import('../intake/apply.js')).undoJob(context),
    async (context, error) => (await import('../intake/apply.js')).undoFailed(context, error),
  );
  registerJob('pull-goods', async (context) => (await import('../intake/pull.js')).pullGoods(context));
  registerJob('find-matches', async (context) => (await import('../matching/propose.js')).findMatches(context));
  registerJob(
    'build-feed',
    async (context) => (await import('../feeds/service.js')).buildFeed(context),
    async (context, error) => (await import('../feeds/service.js')).buildFailed(context, error),
  );
  registerJob('offer-feed', async (context) => (await import('../feeds/report.js')).awaitReport(context));
}
