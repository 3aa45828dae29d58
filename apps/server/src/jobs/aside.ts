/**
 * Runs jobs in worker threads with connections of their own, so that the request loop never waits for them. A thread
 * whose job has ended waits a while for the next one: loading what jobs need takes longer than most of them run.
 */
import { Worker, isMainThread, parentPort } from 'node:worker_threads';

/** What a worker thread says: its job has ended, or another job wants a thread. */
export type WorkerNews = { ended: number } | { wanted: number };

/** Jobs make many short-lived rows: with room for them, fewer are moved about by the garbage collector. */
const youngMegabytes = 64;
/** Threads that wait, and for how long; a thread keeps the memory of the largest job it had. */
const mostWaiting = 2;
const waitMilliseconds = 30_000;

/** A job that the sweep sends once more, because its thread is slow to start, needs no second one. */
const underWay = new Map<number, Promise<void>>();
const waiting: { worker: Worker; leave: NodeJS.Timeout }[] = [];

/** Ends when the job has ended, well or not; what went wrong stands in its row. Rejects where the thread itself died. */
export function runAside(id: number): Promise<void> {
  if (!isMainThread) {
    parentPort?.postMessage({ wanted: id } satisfies WorkerNews);
    return Promise.resolve();
  }
  const known = underWay.get(id);
  if (known) return known;
  const run = inThread(id).finally(() => underWay.delete(id));
  underWay.set(id, run);
  return run;
}

function inThread(id: number): Promise<void> {
  const worker = takeWorker();
  return new Promise((resolve, reject) => {
    const settle = (done: () => void) => {
      unhear(worker);
      done();
    };
    worker.on('message', (news: WorkerNews) => {
      if ('wanted' in news) runAside(news.wanted).catch(() => undefined);
      else
        settle(() => {
          keepWorker(worker);
          resolve();
        });
    });
    worker.once('error', (error) => settle(() => reject(error)));
    worker.once('exit', () => settle(resolve));
    worker.postMessage(id);
  });
}

/** Not `removeAllListeners()` of everything: Node keeps listeners of its own there, without which no message comes. */
function unhear(worker: Worker): void {
  for (const event of ['message', 'error', 'exit']) worker.removeAllListeners(event);
}

function takeWorker(): Worker {
  const kept = waiting.pop();
  if (kept) {
    clearTimeout(kept.leave);
    unhear(kept.worker);
    kept.worker.ref();
    return kept.worker;
  }
  return new Worker(new URL('./worker.js', import.meta.url), {
    resourceLimits: { maxYoungGenerationSizeMb: youngMegabytes },
  });
}

function keepWorker(worker: Worker): void {
  if (waiting.length >= mostWaiting) {
    void worker.terminate();
    return;
  }
  worker.unref();
  worker.once('exit', () => forget(worker)).once('error', () => forget(worker));
  const leave = setTimeout(() => {
    forget(worker);
    void worker.terminate();
  }, waitMilliseconds);
  waiting.push({ worker, leave: leave.unref() });
}

function forget(gone: Worker): void {
  const at = waiting.findIndex(({ worker }) => worker === gone);
  if (at >= 0) clearTimeout(waiting.splice(at, 1)[0]?.leave);
}
