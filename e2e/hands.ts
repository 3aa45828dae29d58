/** What the browser tests have in common: who is signed in, files dropped at Intake, and what axe-core finds. */
import { fileURLToPath } from 'node:url';
import { AxeBuilder } from '@axe-core/playwright';
import { type BrowserContext, type Page, test as base, expect } from '@playwright/test';

export { expect, type Page };

/** Iris’s browser, with what it has cached, lasts as long as the worker; every test has a page of its own in it. */
export const test = base.extend<object, { desk: BrowserContext }>({
  desk: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport, locale, actionTimeout } = project.use;
      const desk = await browser.newContext({ baseURL, viewport, locale });
      desk.setDefaultTimeout(actionTimeout ?? 0);
      await desk.request.post('/api/session', { data: { email: 'iris@mosswick.example', password: 'shelf-demo' } });
      await use(desk);
      await desk.close();
    },
    { scope: 'worker' },
  ],
  page: async ({ desk }, use) => {
    const page = await desk.newPage();
    await use(page);
    await page.close();
  },
});

/** Whoever has not signed in. */
export const stranger = base;

/** What the server answers, as the browser would see it; asked again where a connection had been idle for too long. */
export const read = async (page: Page, path: string) => (await page.request.get(path, { maxRetries: 2 })).json();

/** Waits until nothing is at work beside the requests; an answer that tells of no jobs is shown as it came. */
export const idle = (page: Page) =>
  expect
    .poll(async () => {
      const answer = (await read(page, '/api/shelf')) as { jobs?: unknown[] };
      return answer.jobs ? answer.jobs.length : JSON.stringify(answer);
    })
    .toBe(0);

export const demoFile = (name: string) => fileURLToPath(new URL(`../demo/files/intake/${name}`, import.meta.url));

/** Drops a file of the demo at Intake, or a text under that name; what nothing proves to be somebody's is said to be ours. */
export async function drop(page: Page, name: string, text?: string): Promise<void> {
  await dropOnly(page, name, text);
  await expect(page.getByText(/^Intake · /)).toBeVisible();
  if (!(await page.getByText(/^Intake · nobody’s yet/).isVisible())) return;
  await picked(page, 'Supplier').click();
  await page.getByRole('option', { name: 'Mosswick own sheet' }).click();
  await expect(page.getByText(/^Intake · Mosswick own sheet/)).toBeVisible();
}

/** The same, and nobody says whose it is. */
export async function dropOnly(page: Page, name: string, text?: string): Promise<void> {
  await page.goto('/intake');
  const input = page.getByLabel('File', { exact: true });
  if (text === undefined) await input.setInputFiles(demoFile(name));
  else await input.setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

export const tryIt = (page: Page) => page.getByRole('button', { name: /^Try (it|again)/ }).click();
export const applied = (page: Page) => expect(page.getByRole('button', { name: 'Undo this batch' })).toBeVisible();

/** Drops a file of the demo, tries it and applies all of it. */
export async function bringIn(page: Page, name: string): Promise<void> {
  await drop(page, name);
  await tryIt(page);
  await page.getByRole('button', { name: /^Apply \d/ }).click();
  await applied(page);
}

/** The chosen value of a list with this label. */
export const picked = (page: Page, label: string) =>
  page.getByLabel(label, { exact: true }).locator('xpath=..').getByRole('combobox');

/** What axe-core finds wrong on a page (WCAG 2.2 AA, and what is good practice beside it), as short lines. Of long lists it looks at the first rows: the others are like them. */
export async function faultsOn(page: Page, path: string): Promise<string[]> {
  await page.goto(path);
  await page.waitForLoadState('networkidle').catch(() => undefined);
  // Not some other page that one was sent to.
  expect(new URL(page.url()).pathname).toBe(path.split('?')[0]);
  // Every page has its heading once it is there: a page that has not begun to load says nothing yet.
  await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
  await expect(page.getByRole('progressbar', { name: 'Loading' })).toHaveCount(0);
  let found = await faultsNow(page);
  // What comes and goes while a page loads is no fault of it: what is one is there when it is looked at again.
  for (let looks = 1; found.length > 0 && looks < mostLooks; looks++) {
    await page.waitForTimeout(1000);
    found = await faultsNow(page);
  }
  return found;
}

const mostLooks = 4;

async function faultsNow(page: Page): Promise<string[]> {
  // What is still fading has colours between two that are both right.
  await page.evaluate(async () => {
    const ending = document.getAnimations().filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity);
    await Promise.allSettled(ending.map(({ finished }) => finished));
  });
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .exclude(':is(li, tr, [role=row]):nth-child(n + 9)')
    .analyze();
  return [
    ...violations.map(({ id, nodes: [node] }) => `${id}: ${node?.any[0]?.message} ${node?.html.slice(0, 160)}`),
    ...(await faultsOfFrame(page)),
  ];
}

/** Inside its frame a page scrolls in parts: the window itself never does. */
async function faultsOfFrame(page: Page): Promise<string[]> {
  if ((await page.getByRole('contentinfo').count()) === 0) return [];
  const beyond = await page.evaluate(() => (document.scrollingElement?.scrollHeight ?? 0) - window.innerHeight);
  return beyond > 0 ? [`the page is ${beyond} pixels longer than the window`] : [];
}

/** Presses a key until it is said where what is dragged is: keys are heard only once all is measured, on slow days late. */
export const moveByKey = (page: Page, key: string, said: string | RegExp): Promise<void> =>
  expect(async () => {
    await page.keyboard.press(key);
    await expect(page.getByText(said)).toBeAttached({ timeout: 10_000 });
  }).toPass();

/** Takes back what was done last, at the foot of the page, once that says so. */
export async function undoAtTheFoot(page: Page, words: string | RegExp): Promise<void> {
  const foot = page.getByRole('contentinfo');
  await expect(foot.getByText(words)).toBeVisible();
  await foot.getByRole('button', { name: 'Undo' }).click();
  await expect(foot.getByText(words)).toHaveCount(0);
}
