/** Runs a job in a worker thread with connections of its own, so that the request loop never waits for it. */
import { Worker } from 'node:worker_threads';

/** Ends when the job has ended, well or not; what went wrong stands in its row. */
export function runAside(id: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./worker.js', import.meta.url), { workerData: { job: id } });
    worker.once('error', reject);
    worker.once('exit', () => resolve());
  });
}
