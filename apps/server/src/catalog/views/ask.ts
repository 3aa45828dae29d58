/** Asks what a view shows, of a thread that starts with the first question and begins again where it died. */
import { Worker } from 'node:worker_threads';
import { type CallEnd, answerOf } from '../../jobs/ended.js';
import type { LookedAt } from '../filter.js';
import type { Counts, Question } from './answers.js';

export interface Asked {
  number: number;
  question: Question;
}

interface Waiting {
  resolve: (end: CallEnd) => void;
  reject: (error: Error) => void;
}

let thread: Worker | undefined;
let asked = 0;
const waiting = new Map<number, Waiting>();

/** The first of its goods, in its order. */
export const firstOf = (view: LookedAt) => ask<number[]>({ ask: 'first', view });
/** All of them. */
export const allOf = (view: LookedAt) => ask<number[]>({ ask: 'all', view });
/** How many variants it shows, and what it leaves out. */
export const countsIn = (view: LookedAt) => ask<Counts>({ ask: 'counts', view });

async function ask<Answer>(question: Question): Promise<Answer> {
  const number = ++asked;
  const end = await new Promise<CallEnd>((resolve, reject) => {
    waiting.set(number, { resolve, reject });
    thread ??= start();
    thread.ref();
    thread.postMessage({ number, question } satisfies Asked);
  });
  // The thread answers what it was asked.
  return answerOf(end) as Answer;
}

function start(): Worker {
  const worker = new Worker(new URL(import.meta.resolve('@velvet-shelf/server/views')));
  worker.on('message', ({ number, end }: { number: number; end: CallEnd }) => {
    waiting.get(number)?.resolve(end);
    waiting.delete(number);
    // Nobody who waits for an answer keeps a process from ending when it wants to.
    if (waiting.size === 0) worker.unref();
  });
  const gone = (error: Error) => {
    if (thread === worker) thread = undefined;
    for (const { reject } of waiting.values()) reject(error);
    waiting.clear();
  };
  worker.once('error', gone);
  worker.once('exit', () => gone(new Error('The thread that answers views ended')));
  return worker;
}
