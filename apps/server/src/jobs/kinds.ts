/** Every kind of job and what it does. */
import { buildFailed, buildFeed } from '../feeds/service.js';
import { awaitReport } from '../feeds/report.js';
import { applyBatch, undoJob } from '../intake/apply.js';
import { findEffect } from '../intake/effect.js';
import { pullGoods } from '../intake/pull.js';
import { tryJob } from '../intake/service.js';
import { findMatches } from '../matching/propose.js';
import { registerJob } from './run.js';

export function registerJobs(): void {
  registerJob('try-batch', tryJob);
  registerJob('find-effect', findEffect);
  registerJob('apply-batch', applyBatch);
  registerJob('undo-batch', undoJob);
  registerJob('find-matches', findMatches);
  registerJob('pull-goods', pullGoods);
  registerJob('build-feed', buildFeed, buildFailed);
  registerJob('offer-feed', awaitReport);
}
