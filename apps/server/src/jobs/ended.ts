/** How work in a thread ended, as it goes from there to whoever waits for it. */
import { Problem } from '../http/problem.js';
import { Passing } from './define.js';
import { isPassing, reasonOf } from './run.js';

export type CallEnd =
  { answer: unknown } | { problem: ConstructorParameters<typeof Problem> } | { fault: string; passing: boolean };

/** Waits for work to end, well or not. */
export const ended = (work: Promise<unknown>): Promise<CallEnd> =>
  work.then(
    (answer): CallEnd => ({ answer }),
    (error: unknown): CallEnd =>
      error instanceof Problem
        ? { problem: [error.status, error.title, error.detail, error.errors, error.extra] }
        : { fault: reasonOf(error), passing: isPassing(error) },
  );

/** What the work answered; problems are thrown as they were there. */
export function answerOf(end: CallEnd): unknown {
  if ('problem' in end) throw new Problem(...end.problem);
  if ('fault' in end) throw end.passing ? new Passing(end.fault) : new Error(end.fault);
  return end.answer;
}
