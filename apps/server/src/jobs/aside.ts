/**
 * Work in threads with connections of their own, so that the request loop never waits for it: jobs, and calls a request waits
 * for. There is a ceiling for both; what comes beyond it waits its turn. A thread whose work has ended waits a while for the
 * next: loading what is needed takes longer than most of it runs.
 */
import { Worker, isMainThread, parentPort } from 'node:worker_threads';
import type { Services } from '../http/route.js';
import type { Call } from './define.js';
import { type CallEnd, answerOf } from './ended.js';

/** What a thread is asked to do. */
export type WorkerOrder = { job: number } | { call: string; input: unknown };
/** What it says: its work has ended, or another job wants a thread. */
export type WorkerNews = { ended: CallEnd } | { wanted: number };

/** Jobs make many short-lived rows: with room for them, fewer are moved about by the garbage collector. */
const youngMegabytes = 64;
/** Threads at once. */
const most = { job: 6, call: 3 };
/** Times a call is made whose fault passes by itself. */
const mostTries = 3;
/** Threads that wait, and for how long; a thread keeps the memory of the largest work it had. */
const mostWaiting = 2;
const waitMilliseconds = 120_000;

/** A job that the sweep sends once more, because its thread is slow to start, needs no second one. */
const underWay = new Map<number, Promise<void>>();
const waiting: { worker: Worker; leave: NodeJS.Timeout }[] = [];
const atWork = { job: 0, call: 0 };
const queue: { job: (() => void)[]; call: (() => void)[] } = { job: [], call: [] };

/** Ends when the job has ended, well or not; what went wrong stands in its row. Rejects where the thread itself died. */
export function runAside(id: number): Promise<void> {
  if (!isMainThread) {
    parentPort?.postMessage({ wanted: id } satisfies WorkerNews);
    return Promise.resolve();
  }
  const known = underWay.get(id);
  if (known) return known;
  const run = inThread('job', { job: id })
    .then(() => undefined)
    .finally(() => underWay.delete(id));
  underWay.set(id, run);
  return run;
}

/** What a call answers, from a thread, unless this is one; Problems come across as they are. */
export async function apart<Input, Answer>(
  call: Call<Input, Answer>,
  services: Services,
  input: Input,
): Promise<Answer> {
  if (!isMainThread) return call.run(services, input);
  let end = await inThread('call', { call: call.name, input });
  // A deadlock took back what the call did: the same once more succeeds.
  for (let tries = 1; 'fault' in end && end.passing && tries < mostTries; tries++)
    end = await inThread('call', { call: call.name, input });
  // The thread ran this same call.
  return answerOf(end) as Answer;
}

/** The same from a thread where there is much to do, and here at once where there is not. */
export const apartWhere = <Input, Answer>(
  isMuch: boolean,
  call: Call<Input, Answer>,
  services: Services,
  input: Input,
): Promise<Answer> => (isMuch ? apart(call, services, input) : call.run(services, input));

async function inThread(kind: 'job' | 'call', order: WorkerOrder): Promise<CallEnd> {
  if (atWork[kind] >= most[kind]) await new Promise<void>((resolve) => queue[kind].push(resolve));
  atWork[kind]++;
  try {
    return await inWorker(order);
  } finally {
    atWork[kind]--;
    queue[kind].shift()?.();
  }
}

function inWorker(order: WorkerOrder): Promise<CallEnd> {
  const worker = takeWorker();
  return new Promise((resolve, reject) => {
    const settle = (done: () => void) => {
      unhear(worker);
      done();
    };
    worker.on('message', (news: WorkerNews) => {
      if ('wanted' in news)
        // What goes wrong with it stands in its row.
        runAside(news.wanted).catch(() => undefined);
      else
        settle(() => {
          keepWorker(worker);
          resolve(news.ended);
        });
    });
    worker.once('error', (error) => settle(() => reject(error)));
    worker.once('exit', () => settle(() => reject(new Error('The thread ended'))));
    worker.postMessage(order);
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
  return new Worker(new URL(import.meta.resolve('@velvet-shelf/server/thread')), {
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
