/** Listings of all places in one grid, one value pinned for many of them; and what the company says of its currencies. */
import { expect, faultsOn, test } from '../hands.js';

test.describe.configure({ mode: 'serial' });

test('one value is pinned for some listings, tried first, found again and let go', async ({ page }) => {
  await page.goto('/listings?place=1&readiness=ready');
  const table = page.getByRole('table', { name: 'Listings' });
  await table
    .getByRole('checkbox', { name: /^Choose MS-/ })
    .nth(0)
    .check();
  await table
    .getByRole('checkbox', { name: /^Choose MS-/ })
    .nth(1)
    .check();
  const chosen = page.getByRole('region', { name: 'All that are chosen' });
  await expect(chosen.getByRole('status')).toHaveText('2 listings chosen');
  await chosen.getByLabel('Attribute').click();
  await page.getByRole('option', { name: 'Short wording', exact: true }).click();
  await chosen.getByLabel('Value for all').fill('x');
  await expect(chosen.getByRole('status')).toContainText('2 listings become blocked');
  await chosen.getByLabel('Value for all').fill('A pot that somebody named by hand');
  await expect(chosen.getByRole('status')).toContainText('2 values pinned, no listing becomes ready or blocked');
  await chosen.getByRole('button', { name: 'Pin for 2 listings' }).click();
  await expect(page.getByText(/^2 listings pinned; /)).toBeVisible();
  await expect(chosen).toBeHidden();
  await page.getByRole('button', { name: 'pinned', exact: true }).click();
  await expect(table.getByText('pinned: Short wording')).toHaveCount(2);
  await table.getByRole('checkbox', { name: 'Choose all that match' }).check();
  await chosen.getByLabel('Attribute').click();
  await page.getByRole('option', { name: 'Short wording', exact: true }).click();
  await chosen.getByRole('button', { name: 'Let them follow their fill' }).click();
  await expect(page.getByText(/^2 listings unpinned; /)).toBeVisible();
  await expect(page.getByText('No listing is like this')).toBeVisible();
});

test('a rate is said between two currencies, with who says so, changed and taken away', async ({ page }) => {
  await page.goto('/company?tab=rates');
  await page.getByLabel('From').click();
  await page.getByRole('option', { name: 'GBP' }).click();
  await page.getByLabel('To', { exact: true }).click();
  await page.getByRole('option', { name: 'SEK' }).click();
  await page.getByLabel('One GBP in SEK').fill('much');
  await page.getByLabel('Who says so').fill('our bank');
  await page.getByRole('button', { name: 'Keep the rate' }).click();
  await expect(page.getByText('Give a rate in plain decimals, such as 13.12')).toBeVisible();
  await page.getByLabel('One GBP in SEK').fill('12.64');
  await page.getByRole('button', { name: 'Keep the rate' }).click();
  const rates = page.getByRole('table', { name: 'Rates' });
  await expect(rates.getByRole('row').nth(1)).toContainText('12.64 SEK');
  await rates.getByRole('button', { name: 'Change the rate from GBP to SEK' }).click();
  await page.getByLabel('One GBP in SEK').fill('12.7');
  await page.getByRole('button', { name: 'Keep the rate' }).click();
  await expect(rates.getByRole('row').nth(1)).toContainText('12.7 SEK');
  await rates.getByRole('button', { name: 'Take the rate from GBP to SEK away' }).click();
  await expect(page.getByText('No rates yet')).toBeVisible();
});

for (const path of ['/listings', '/company?tab=rates', '/places/1/fills?carry=file'])
  test(`axe finds nothing wrong on ${path}`, async ({ page }) => {
    expect(await faultsOn(page, path)).toEqual([]);
  });
