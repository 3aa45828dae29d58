/** Goods fitted to a channel: categories suggested for many at once, a fill tried on the whole assortment while others work, and one saved. */
import { loadLexicon, suggestCategories } from '@velvet-shelf/core/categories';
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { ask, percentile, post, signIn } from './asking.js';
import type { BenchLine } from './timing.js';

const [ownCategories, channelCategories] = [60, 400];
const reachSuggested = 500;
const reachFirst = 1000;
const reachTried = 20_000;
/** Answers to somebody else meanwhile. */
const reachMeanwhile = 100;
const place = '/api/places/1';

export async function benchFitting(count: number): Promise<BenchLine[]> {
  await signIn();
  return [await suggested(), ...(await tried(count))];
}

const line = (name: string, taken: number, reach: number, figures: Record<string, number>): BenchLine => ({
  ...{ name, ratio: Number((taken / reach).toFixed(2)), reach: `<= ${reach} ms`, holds: taken <= reach, figures },
});

interface Tree {
  categories: { path: string; name: string }[];
}

/** Categories of ours named like some of the channel's, with a dozen titles each: what is suggested does not matter here. */
async function suggested(): Promise<BenchLine> {
  const { categories } = rulebooksOf('quernby')[0] as Tree;
  const some = categories.slice(0, channelCategories);
  const parents = new Set(some.map(({ path }) => path.slice(0, path.lastIndexOf('/'))));
  const names = new Map(some.map(({ path, name }) => [path, name]));
  const namesOf = (path: string) =>
    path.split('/').map((_, i, parts) => names.get(parts.slice(0, i + 1).join('/')) ?? '');
  const target = some.map(({ path }) => ({ path, names: namesOf(path), isLeaf: !parents.has(path) }));
  const leaves = target.filter(({ isLeaf }) => isLeaf);
  const step = Math.max(1, Math.floor(leaves.length / ownCategories));
  const own = Array.from({ length: ownCategories }, (_, i) => {
    const [last = '', above = ''] = [...(leaves[(i * step) % leaves.length]?.names ?? [])].reverse();
    const titles = Array.from({ length: 12 }, (_, n) => `${last} number ${n}, of stoneware, for ${above}`);
    return { path: `own/${i}`, names: [`Our ${above}`, `${last} and more`], titles };
  });
  const lexicon = await loadLexicon('en-GB');
  const taken: number[] = [];
  for (let i = 0; i < 5; i++) {
    const start = performance.now();
    suggestCategories({
      target,
      own,
      chosen: [],
      language: 'en-GB',
      leafOnly: true,
      most: 4,
      ...(lexicon ? { lexicon } : {}),
    });
    taken.push(performance.now() - start);
  }
  const median = Math.round(percentile(taken, 0.5));
  return line('categories suggested', median, reachSuggested, {
    own: own.length,
    channel: target.length,
    median_ms: median,
  });
}

async function tried(count: number): Promise<BenchLine[]> {
  const fill = {
    rule: {
      kind: 'first',
      of: [
        { kind: 'compose', parts: [{ from: 'title' }, { from: 'brand', before: ', ' }] },
        { kind: 'copy', from: 'title' },
      ],
    },
    fit: [{ do: 'trim-at-word', length: 100 }],
  };
  const trial = async (few: boolean): Promise<number> => {
    const start = performance.now();
    const answer = await post(`${place}/fills/short/try`, { fill, ...(few ? { few } : {}) });
    if (answer.status !== 200) throw new Error(`Trying a fill answered ${answer.status}: ${await answer.text()}`);
    await answer.arrayBuffer();
    return Math.round(performance.now() - start);
  };
  // Threads start with the first call.
  await trial(true);
  const first = await trial(true);
  let isOver = false;
  const whole = trial(false).finally(() => {
    isOver = true;
  });
  const meanwhile: number[] = [];
  while (!isOver) {
    meanwhile.push(await ask('/api/places'));
    await new Promise((done) => setTimeout(done, 20));
  }
  const all = await whole;
  const others = Math.round(percentile(meanwhile, 0.95));
  return [
    line(`fill tried, first figures ${count}`, first, reachFirst, { first_ms: first }),
    line(`fill tried on all ${count}`, all, reachTried, { all_ms: all }),
    line(`answers meanwhile ${count}`, others, reachMeanwhile, { p95_ms: others, asked: meanwhile.length }),
  ];
}
