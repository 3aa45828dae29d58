/** The thread views are answered in: it holds the goods, and is asked one question after the other. */
import { parentPort } from 'node:worker_threads';
import { readConfig } from '../../config.js';
import { openDatabase } from '../../db/client.js';
import { ended } from '../../jobs/ended.js';
import { type Question, answerTo } from './answers.js';
import type { Asked } from './ask.js';
import { HeldGoods } from './goods.js';

const db = openDatabase(readConfig().database, { connections: 2 });
let held: HeldGoods | undefined;
let last: Promise<unknown> = Promise.resolve();

parentPort?.on('message', ({ number, question }: Asked) => {
  last = last.then(() => ended(answer(question))).then((end) => parentPort?.postMessage({ number, end }));
});

async function answer(question: Question) {
  try {
    if (!held || !(await held.renew())) held = await HeldGoods.read(db);
    return await answerTo(db, held, question);
  } catch (error) {
    // What was being read may be held in part.
    held = undefined;
    throw error;
  }
}
