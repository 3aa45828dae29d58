/** From an empty database to a first checked feed with goods of one's own, by clicks a stranger finds; each click and each typed field is counted. */
import type { Page } from '@playwright/test';
import { expect, faultsOn, stranger as test } from '../hands.js';
import { type Hands, walk } from '../first-run-walk.js';

/** Hands that count. */
function countingHands(page: Page): Hands & { done: { clicks: number; typed: number } } {
  const done = { clicks: 0, typed: 0 };
  return {
    done,
    click: async (target) => {
      done.clicks++;
      await target.click();
    },
    type: async (label, text) => {
      done.typed++;
      await page.getByLabel(label, { exact: false }).first().fill(text);
    },
    press: (target, key) => target.press(key),
    pick: async (label, text, option) => {
      done.typed++;
      const field = page.getByRole('combobox', { name: label, exact: false });
      await field.fill(text);
      await expect(page.getByRole('option', { name: option }).first()).toBeVisible();
      await field.press('Enter');
      await field.press('Escape');
    },
    file: async (field, _, name, text) => {
      done.clicks++;
      await field.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    },
  };
}

test('an owner, a company, goods of her own, a channel of her own, a first feed', async ({ page }) => {
  const hands = countingHands(page);
  await walk(page, hands);
  expect(hands.done.clicks).toBeLessThanOrEqual(40);
  expect(hands.done.typed).toBeLessThanOrEqual(25);
});

test('the attributes that came with the batch are the company’s and go with its undo; categories that are mapped stay', async ({
  page,
}) => {
  await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
  await page.goto('/attributes?search=Artesana');
  await expect(page.getByRole('row', { name: /Artesana/ })).toContainText('40');
  await page.goto('/categories');
  await expect(page.getByRole('treeitem', { name: /Bufandas/ })).toContainText('10');
  await page.goto('/intake/1');
  await page.getByRole('button', { name: 'Undo this batch' }).click();
  await expect(page.getByRole('button', { name: 'Undo this batch' })).toBeHidden();
  await page.goto('/attributes?search=Artesana');
  await expect(page.getByText('No attribute of this name')).toBeVisible();
  await page.goto('/categories');
  // Mapped on the channel: what refers to it would lead nowhere.
  await expect(page.getByRole('treeitem', { name: /Bufandas/ })).toHaveText(/^Bufandas\D*0\D*$/);
});

test('people come in by a link, once; the last owner stays', async ({ page, browser, baseURL }) => {
  await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
  await page.goto('/company?tab=people');
  await page.getByLabel('E-mail address').fill('elvira@telares.example');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByRole('status').locator('code').textContent();
  const guest = await (await browser.newContext({ baseURL })).newPage();
  await guest.goto(new URL(link ?? '').pathname);
  await expect(guest.getByText('elvira@telares.example, as editor')).toBeVisible();
  await guest.getByLabel('Your name').fill('Elvira');
  await guest.getByLabel('Password').fill('corta');
  await guest.getByRole('button', { name: 'Make the account' }).click();
  await expect(guest.getByText('A password has ten letters or more')).toBeVisible();
  await guest.getByLabel('Password').fill('otra-clave-larga');
  await guest.getByRole('button', { name: 'Make the account' }).click();
  await expect(guest.getByRole('link', { name: 'Today' })).toBeVisible();
  const late = await (await browser.newContext({ baseURL })).newPage();
  await late.goto(new URL(link ?? '').pathname);
  await expect(late.getByText(/it was used, has ended, or was withdrawn/)).toBeVisible();
  await page.reload();
  await page.getByLabel('Role of Rosa Quilapán').locator('xpath=..').getByRole('combobox').click();
  await page.getByRole('option', { name: 'viewer' }).click();
  await expect(page.getByText(/is the last owner/)).toBeVisible();
});

test('the company’s currency is changed with goods already in', async ({ page }) => {
  await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
  await page.goto('/company');
  const field = page.getByRole('combobox', { name: 'Currencies of its prices' });
  await field.fill('EUR');
  await field.press('Enter');
  await field.press('Escape');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Kept', { exact: true })).toBeVisible();
  const { currencies } = await (await page.request.get('/api/company')).json();
  expect(currencies).toEqual(['CLP', 'EUR']);
  const stale = await page.request.put('/api/company', {
    data: { ...(await (await page.request.get('/api/company')).json()), version: 1 },
  });
  expect(stale.status()).toBe(412);
});

for (const path of [
  '/',
  '/company',
  '/company?tab=people',
  '/company?tab=suppliers',
  '/company?tab=warehouses',
  '/attributes?make=one',
  '/attributes?make=many',
  '/categories',
  '/channels?make=yes',
  '/places/1/goods',
])
  test(`axe finds nothing on ${path}`, async ({ page }) => {
    await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
    expect(await faultsOn(page, path)).toEqual([]);
  });
