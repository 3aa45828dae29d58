/** A simulated channel says where it would put goods, by the words their titles share with its categories. */
import type Router from '@koa/router';
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import type { Context } from 'koa';
import { textOf } from './joining.js';

interface Tree {
  categories: { path: string; name: string }[];
}

const mostSaid = 5;
/** Words as they are compared: without capitals, and without the ending of several. */
const wordsOf = (text: string) => (text.toLowerCase().match(/\p{L}{3,}/gu) ?? []).map((word) => word.replace(/s$/, ''));

export function placing(router: Router, channel: string, isLetIn: (ctx: Context) => Promise<boolean>): void {
  const { categories } = (rulebooksOf(channel) as Tree[])[0] ?? { categories: [] };
  router.post(`/${channel}/api/placing`, async (ctx) => {
    if (!(await isLetIn(ctx))) return;
    const { titles = [] } = JSON.parse((await textOf(ctx.req)) || '{}') as { titles?: string[] };
    const counts = new Map<string, number>();
    for (const title of titles)
      for (const word of new Set(wordsOf(title))) counts.set(word, (counts.get(word) ?? 0) + 1);
    const scored = categories.map(({ path, name }) => {
      const words = wordsOf(name);
      const shared = words.reduce((sum, word) => sum + (counts.get(word) ?? 0), 0);
      return { path, score: shared / Math.max(1, words.length) };
    });
    ctx.body = {
      categories: scored
        .filter(({ score }) => score > 0)
        .sort((x, y) => y.score - x.score)
        .slice(0, mostSaid)
        .map(({ path }) => path),
    };
  });
}
