/**
 * Somebody who presses whatever there is; VELVET_STEPS says how often on each page. Whatever is pressed, no page breaks,
 * nothing is written to the console, and the server never stumbles. A hunt, and no part of the usual run: what is there to
 * be pressed depends on how quick the machine is.
 */
import { type Page, bringIn, expect, idle, read, test } from '../hands.js';

/** Numbers from 0 to below 1 that look random (a linear congruence with the constants of Numerical Recipes). */
function chances(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1_664_525 + 1_013_904_223) % 4_294_967_296) / 4_294_967_296;
}

/** Ends the session or leaves the application: not pressed. */
const left = /sign out|download|export|csv|open the page/i;

/** What goes wrong on a page, as it goes wrong. */
function faultsOf(page: Page): string[] {
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(`the page broke: ${error.message}`));
  page.on('response', (answer) => {
    if (answer.status() >= 500) faults.push(`${answer.request().method()} ${answer.url()} answered ${answer.status()}`);
  });
  page.on('console', (message) => {
    // Refusals are answers of their own; the policy’s remark about its fallback is none of ours.
    if (message.type() === 'error' && !/status of 4\d\d|default-src/.test(message.text()))
      faults.push(`the console says: ${message.text()}`);
  });
  return faults;
}

const pressable = [
  'button:enabled:visible',
  'a[href^="/"]:visible',
  '[role=tab]:visible',
  '[role=option]:visible',
  '[role=menuitem]:visible',
  '[role=row]:visible',
  '[role=combobox]:visible',
  'input:enabled:visible',
].join(', ');

const typed = ['moss', '12.50', '', '-3', '“quoted”', '=1+1', 'a'.repeat(300)];

async function wander(page: Page, from: string, steps: number, seed: number): Promise<string[]> {
  const faults = faultsOf(page);
  const chance = chances(seed);
  const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(chance() * list.length)];
  const way: string[] = [];
  await page.goto(from);
  for (let i = 0; i < steps; i++) {
    await page.waitForTimeout(150);
    const target = pick(await page.locator(pressable).all());
    if (!target) {
      await page.goto(from);
      continue;
    }
    const name =
      ((await target.getAttribute('aria-label').catch(() => null)) ?? (await target.textContent().catch(() => ''))) ||
      '';
    if (left.test(name)) continue;
    way.push(name.trim().slice(0, 40));
    const isField = await target
      .evaluate((row) => row.matches('input[type=text], input[type=search], input:not([type])'))
      .catch(() => false);
    if (isField) await target.fill(pick(typed) ?? '', { timeout: 1000 }).catch(() => undefined);
    else await target.click({ timeout: 1000 }).catch(() => page.keyboard.press('Escape'));
    if (faults.length > 0) return [`${from} → ${way.join(' → ')}`, ...faults];
    if (chance() < 0.1) await page.keyboard.press(pick(['Escape', 'Enter', 'Tab', 'ArrowDown']) ?? 'Escape');
    if (page.url().includes('/sign-in')) return [`${from} → ${way.join(' → ')}`, 'the session was lost'];
  }
  return faults;
}

const steps = Number(process.env.VELVET_STEPS ?? 0);
test.skip(steps === 0, 'a hunt; VELVET_STEPS=40 sends it out');

test.beforeAll(async ({ desk }) => {
  const page = await desk.newPage();
  await bringIn(page, 'mosswick-own.tsv');
  await bringIn(page, 'kestrelgate-seeds.json');
  await idle(page);
  await page.close();
});

const places = [
  '/',
  '/intake',
  '/matching',
  '/matching?tab=joined',
  '/matching?tab=trust',
  '/catalog',
  '/causes',
  '/places/1',
  '/places/1/fills',
  '/places/1/rulebook',
  '/listings',
  '/feeds',
  '/history',
];

for (const [i, path] of places.entries())
  test(`whatever is pressed from ${path} on, nothing breaks`, async ({ page }) => {
    expect(await wander(page, path, steps, 7 + i + Number(process.env.VELVET_SEED ?? 0))).toEqual([]);
    expect((await read(page, '/api/health')).status).toBe('ok');
  });
