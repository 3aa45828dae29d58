/** The thread views are answered in: it holds the goods, and takes in what has changed with every question. */
import { parentPort } from 'node:worker_threads';
import { readConfig } from '../../config.js';
import { openDatabase } from '../../db/client.js';
import { ended } from '../../jobs/ended.js';
import { type Question, answerTo } from './answers.js';
import type { Asked } from './ask.js';
import { HeldGoods } from './goods.js';

const db = openDatabase(readConfig().database, { connections: 4 });
let held: Promise<HeldGoods> | undefined;

parentPort?.on('message', ({ number, question }: Asked) => {
  void ended(answer(question)).then((end) => parentPort?.postMessage({ number, end }));
});

const answer = async (question: Question) => answerTo(db, await goodsNow(), question);

/** The goods as they are written now. Whoever finds that too much has changed has all read anew, for the others too. */
async function goodsNow(): Promise<HeldGoods> {
  const asked = (held ??= HeldGoods.read(db));
  const forget = () => {
    if (held === asked) held = undefined;
  };
  try {
    const goods = await asked;
    if (await goods.renew()) return goods;
  } catch (error) {
    // What was being read may be held in part.
    forget();
    throw error;
  }
  forget();
  return goodsNow();
}
