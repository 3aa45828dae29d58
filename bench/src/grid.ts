/** The grid: views opened, one after another and many at once, windows of rows, and scrolling through all of it in Chromium. */
import { chromium } from '@playwright/test';
import { ask, base, openView, percentile, person, post, signIn } from './asking.js';
import type { BenchLine } from './timing.js';

const calls = 40;
const reachOpened = 60;
const reachWindow = 60;
const atOnce = 50;
const reachAtOnce = 500;

/** As people look at goods: all, by a value, and a nested condition with a search and a sort. */
const views: Record<string, object> = {
  plain: {},
  variants: { show: 'variants' },
  by_weight: { show: 'variants', sort: 'weight' },
  nested: {
    condition: {
      all: [
        {
          any: [
            { attribute: 'brand', op: 'contains', value: 'bra' },
            { attribute: 'material', op: 'isEmpty' },
          ],
        },
        { not: { attribute: 'state', op: 'is', value: 'paused' } },
      ],
    },
    search: 'pot',
    sort: '-price',
  },
};

export async function benchGrid(count: number): Promise<BenchLine[]> {
  await signIn();
  const opened: Record<string, number> = {};
  for (const [name, view] of Object.entries(views)) {
    const taken: number[] = [];
    for (let i = 0; i < calls; i++) taken.push(await opening(view));
    opened[name] = Math.round(percentile(taken, 0.95));
  }
  const token = await openView({});
  await ask(`/api/views/${token}`);
  const windows: number[] = [];
  for (let i = 0; i < calls; i++)
    windows.push(await ask(`/api/views/${token}/rows?from=${(i * 3571) % count}&count=100&columns=weight,diameter`));
  const slowest = Math.max(...Object.values(opened));
  const window = Math.round(percentile(windows, 0.95));
  return [
    line(`view opened ${count}`, slowest, reachOpened, opened),
    line(`window of rows ${count}`, window, reachWindow, { p95: window }),
    await openedAtOnce(count),
    await scrolled(count),
  ];
}

const line = (name: string, worst: number, reach: number, figures: Record<string, number>): BenchLine => ({
  ...{ name, ratio: Number((worst / reach).toFixed(2)), reach: `<= ${reach} ms`, holds: worst <= reach, figures },
});

/** Milliseconds until the token and the first rows are there. */
async function opening(view: object): Promise<number> {
  const start = performance.now();
  await (await post('/api/views', view)).arrayBuffer();
  return performance.now() - start;
}

async function openedAtOnce(count: number): Promise<BenchLine> {
  const sorts = ['title', 'sku', '-price', 'brand', 'family'];
  const open = (i: number) =>
    opening({
      condition: {
        any: [
          { attribute: 'brand', op: 'contains', value: 'bra' },
          { attribute: 'material', op: 'is', value: 'steel' },
        ],
      },
      search: `p${i % 7}`,
      sort: sorts[i % sorts.length],
    });
  await open(0);
  const taken = await Promise.all(Array.from({ length: atOnce }, (_, i) => open(i)));
  const worst = Math.round(percentile(taken, 0.95));
  const median = Math.round(percentile(taken, 0.5));
  return line(`views at once ${count}`, worst, reachAtOnce, { p95: worst, median });
}

const speed = 3;
const scrolledFor = 10_000;
/** Of a hundred frames. */
const mostBare = 1;

/** Ten seconds at 3,000 pixels a second: frames in which a row was not there yet, and tasks that held the page up. */
async function scrolled(count: number): Promise<BenchLine> {
  const executablePath = process.env.VELVET_BROWSER ?? '/usr/bin/chromium';
  const browser = await chromium.launch({ executablePath, args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.request.post(`${base}/api/session`, { data: person });
    await page.goto(`${base}/catalog`);
    await page.getByRole('gridcell').first().waitFor();
    await page.waitForTimeout(2000);
    const seen = await page.evaluate(
      ([pixels = 0, milliseconds = 0]) =>
        new Promise<{ frames: number; bare: number; tasks: number[] }>((done) => {
          const grid = document.querySelector('[role=grid]') as HTMLElement;
          const tasks: number[] = [];
          new PerformanceObserver((list) => {
            for (const { duration } of list.getEntries()) tasks.push(Math.round(duration));
          }).observe({ entryTypes: ['longtask'] });
          const start = performance.now();
          let [frames, bare] = [0, 0];
          const onFrame = (now: number) => {
            const passed = now - start;
            grid.scrollTop = pixels * passed;
            const { top, bottom, height } = grid.getBoundingClientRect();
            let filled = 0;
            let waits = false;
            for (const row of grid.querySelectorAll('[role=row]')) {
              const box = row.getBoundingClientRect();
              const inSight = Math.min(box.bottom, bottom) - Math.max(box.top, top);
              if (inSight <= 0) continue;
              filled += inSight;
              waits ||= row.textContent === '…';
            }
            frames++;
            if (waits || filled < height - 40) bare++;
            if (passed < milliseconds) requestAnimationFrame(onFrame);
            else done({ frames, bare, tasks });
          };
          requestAnimationFrame(onFrame);
        }),
      [speed, scrolledFor],
    );
    const share = (100 * seen.bare) / seen.frames;
    return {
      name: `grid scrolled ${count}`,
      ratio: Number((share / mostBare).toFixed(2)),
      reach: '<= 1 % bare, no task over 50 ms',
      holds: share <= mostBare && seen.tasks.length === 0,
      figures: {
        frames: seen.frames,
        bare: seen.bare,
        long_tasks: seen.tasks.length,
        longest_task_ms: Math.max(0, ...seen.tasks),
      },
    };
  } finally {
    await browser.close();
  }
}
