/** Tables, addresses and forms, as every page has them; on the goods that were brought in before. */
import { expect, test } from '../hands.js';

test('a table is sorted by a click on its head, turned round by another, and as it was by a third', async ({
  page,
}) => {
  await page.goto('/places/1/fills');
  const table = page.getByRole('table', { name: 'Attributes of the channel' });
  const names = () => table.getByRole('row').locator('b').allInnerTexts();
  await expect(table.getByRole('row').nth(1)).toBeVisible();
  const asItWas = await names();
  const head = table.getByRole('button', { name: /^Attribute/ });
  await head.click();
  await expect(table.getByRole('columnheader', { name: /^Attribute/ })).toHaveAttribute('aria-sort', 'ascending');
  const sorted = await names();
  expect(sorted).toEqual([...asItWas].sort());
  await head.click();
  await expect(table.getByRole('columnheader', { name: /^Attribute/ })).toHaveAttribute('aria-sort', 'descending');
  expect(await names()).toEqual([...sorted].reverse());
  await head.click();
  expect(await names()).toEqual(asItWas);
});

test('rows are chosen by keys: down and up go from row to row, and Enter opens one', async ({ page }) => {
  await page.goto('/listings');
  const rows = page.getByRole('table', { name: 'Listings' }).getByRole('row');
  await rows.nth(1).getByRole('button').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await expect(rows.nth(2).getByRole('button')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Listing', { exact: true })).toBeVisible();
  await expect(rows.nth(2)).toHaveAttribute('aria-current', 'true');
});

test('what a page shows stands in its address: it is opened again as it was, and gone back from', async ({ page }) => {
  await page.goto('/listings');
  await page.getByRole('button', { name: 'blocked', exact: true }).click();
  await page.getByLabel('Search listings').fill('pot');
  await expect(page).toHaveURL(/readiness=blocked/);
  await expect(page).toHaveURL(/search=pot/);
  await page.reload();
  await expect(page.getByLabel('Search listings')).toHaveValue('pot');
  await page.getByRole('button', { name: 'never sent' }).click();
  await expect(page).toHaveURL(/channelState=none/);
  // Typing leaves no steps behind, choosing does.
  await page.goBack();
  await expect(page).not.toHaveURL(/channelState/);
  await expect(page.getByLabel('Search listings')).toHaveValue('pot');
  await page.goto('/listings?readiness=nonsense&open=x&place=-1');
  await expect(page.getByRole('heading', { name: 'Listings' })).toBeVisible();
  await expect(page.getByText(/went wrong/)).toHaveCount(0);
});

test('a form says at the field what is missing, and sends nothing until it is there', async ({ page }) => {
  await page.goto('/intake');
  await page.getByRole('button', { name: '+ Source to fetch' }).click();
  const form = page.locator('form').filter({ hasText: 'Address of its list of goods' });
  let sent = 0;
  page.on('request', (request) => void (request.method() === 'POST' && request.url().endsWith('/api/pulls') && sent++));
  await form.getByLabel('Address of its list of goods').fill('http://shop.example/goods.csv');
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form.getByText('This is still missing').first()).toBeVisible();
  await expect(form.getByLabel('Name')).toBeFocused();
  await form.getByLabel('Name').fill('A shop');
  await form.getByLabel('Supplier').click();
  await page.getByRole('option', { name: 'Brackwater Pottery' }).click();
  await expect(form.getByText('This is still missing')).toHaveCount(0);
  expect(sent).toBe(0);
  await page.keyboard.press('Escape');
});

test('a sign-in without a password says so at the field', async ({ browser, baseURL }) => {
  const stranger = await browser.newContext(baseURL === undefined ? {} : { baseURL });
  const page = await stranger.newPage();
  await page.goto('/sign-in?to=/feeds');
  await page.getByLabel('E-mail address').fill('iris@mosswick.example');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('Give your password')).toBeVisible();
  await page.getByLabel('Password').fill('shelf-demo');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Feeds' })).toBeVisible();
  await stranger.close();
});
