/** The path a person walks, in the real interface: file in, catalog, causes, feed, the channel's answer. In this order. */
import { bringIn, demoFile, expect, faultsOn, picked, stranger, test } from '../hands.js';

stranger('signing in: a wrong password is said plainly, the right one opens Today', async ({ page }) => {
  await page.goto('/catalog');
  await page.getByLabel('E-mail address').fill('iris@mosswick.example');
  await page.getByLabel('Password').fill('nope');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('do not belong together')).toBeVisible();
  await page.getByLabel('Password').fill('shelf-demo');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Catalog' })).toBeVisible();
});

test('an empty shelf says what to do next', async ({ page }) => {
  await page.goto('/catalog');
  await expect(
    page.getByText('There are no goods yet. Drop a file at Intake, or make the first by hand.'),
  ).toBeVisible();
});

test('a picture named .csv is refused, and nothing is read', async ({ page }) => {
  await page.goto('/intake');
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'photo.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a]),
  });
  await expect(page.getByText('PNG picture')).toBeVisible();
  await expect(page.getByText('No file has been read in yet.')).toBeVisible();
});

test('the pottery file: what was found is shown, corrected, tried, applied', async ({ page }) => {
  await page.goto('/intake');
  await page.getByLabel('File', { exact: true }).setInputFiles(demoFile('brackwater-pottery.csv'));
  await expect(page.getByRole('heading', { name: 'brackwater-pottery.csv' })).toBeVisible();
  await expect(page.getByText('Windows-1252')).toBeVisible();
  await expect(page.getByText('is not valid UTF-8')).toBeVisible();
  await picked(page, 'Warengruppe Töpfe becomes').click();
  await page.getByRole('option', { name: 'Planters / Indoor pots' }).click();
  await page.getByRole('button', { name: 'Try it: show what would change' }).click();
  await expect(page.getByText('179 would be created')).toBeVisible();
  await page.getByRole('button', { name: 'refused 18' }).click();
  await expect(page.getByText('This is a totals row, not goods')).toBeVisible();
  await page.getByRole('button', { name: 'Apply 179 rows' }).click();
  await expect(page.getByRole('button', { name: 'Undo this batch' })).toBeVisible();
});

test('the own sheet joins it; the catalog shows families and variants', async ({ page }) => {
  await bringIn(page, 'mosswick-own.tsv');
  await page.goto('/catalog');
  await page.getByLabel('Search goods').fill('MS-HOL42-10-OC');
  await expect(page.getByRole('row').filter({ hasText: 'MS-HOL42-10-OC' })).toBeVisible();
  await expect(page.getByText('not found by the search')).toBeVisible();
  await page.getByRole('row').filter({ hasText: 'MS-HOL42-10-OC' }).click();
  const drawer = page.getByLabel('Product', { exact: true });
  await expect(drawer.getByText('won over Brackwater Pottery').first()).toBeVisible();
  await drawer.getByRole('button', { name: 'Edit Weight' }).click();
  await drawer.getByLabel('Weight').fill('500 g');
  await drawer.getByRole('button', { name: 'Save' }).click();
  await expect(drawer.getByRole('button', { name: 'Edit Weight' })).toHaveText('500 g');
  await drawer.getByRole('tab', { name: 'History' }).click();
  await expect(drawer.getByText('Set Weight of MS-HOL42-10-OC').first()).toBeVisible();
});

test('the grid sorts, chooses columns, and scrolls through all rows', async ({ page }) => {
  await page.goto('/catalog?show=variants');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitem', { name: 'Diameter' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('columnheader', { name: 'Price' }).getByRole('button').click();
  await expect(page.getByRole('columnheader', { name: 'Price' })).toHaveAttribute('aria-sort', 'ascending');
  await expect(page.getByRole('columnheader', { name: 'Diameter' })).toBeVisible();
  const grid = page.getByRole('grid');
  await expect(async () => {
    await grid.evaluate((row) => row.scrollTo(0, row.scrollHeight));
    const rows = Number(await grid.getAttribute('aria-rowcount'));
    await expect(page.locator(`[aria-rowindex="${rows}"]`)).toBeVisible({ timeout: 1_000 });
  }).toPass({ timeout: 90_000 });
});

test('a cause is fixed in place and clears its listings at once; undo brings them back', async ({ page }) => {
  await page.goto('/causes?cause=translate:orrivane::differsShade:Sage');
  const heading = page.getByRole('heading', { name: /listings cannot go out/ });
  const before = Number((await heading.textContent())?.match(/\d+/)?.[0]);
  await expect(page.getByRole('heading', { name: 'Which shade is “Sage” on Orrivane?' })).toBeVisible();
  await page.getByLabel('Another one of the whole list').click();
  await page.getByRole('option', { name: 'fern', exact: true }).click();
  await expect(page.getByText(/\d+ listings become ready/)).toBeVisible();
  await page.getByRole('button', { name: 'Save and go to next' }).click();
  await expect(page.getByText(/listings became ready/)).toBeVisible();
  await expect.poll(async () => Number((await heading.textContent())?.match(/\d+/)?.[0])).toBeLessThan(before);
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => Number((await heading.textContent())?.match(/\d+/)?.[0])).toBe(before);
});

test('a suggested category is accepted', async ({ page }) => {
  await page.goto('/places/1');
  await page.getByRole('button', { name: 'Workwear / Work aprons', exact: true }).click();
  await expect(page.getByText(/Mapped 1 category; 1\d listings re-checked/)).toBeVisible();
});

test('a value leads back to the supplier’s cell', async ({ page }) => {
  await page.goto('/listings?search=MS-HOL42-10-MO');
  await page.getByRole('button', { name: 'MS-HOL42-10-MO' }).click();
  await page.getByRole('button', { name: /^Shade/ }).click();
  await expect(page.getByText('“Moss” becomes “moss”')).toBeVisible();
  await expect(page.getByText('column “Colour”')).toBeVisible();
  await page.getByRole('link', { name: 'Open the batch at this row' }).click();
  await expect(page.getByRole('heading', { name: 'mosswick-own.tsv' })).toBeVisible();
  await expect(page.locator('tr[aria-current]')).toContainText('MS-HOL42-10-MO');
});

test('a feed is built, offered, and answered; the balance adds up and the channel shows the goods', async ({
  page,
}) => {
  await page.goto('/feeds');
  await page.getByRole('button', { name: /New XML feed/ }).click();
  await page.getByRole('button', { name: 'Build now' }).click();
  const balance = page.getByLabel('Balance');
  await expect(balance.getByText('adds up')).toHaveCount(2);
  // Nobody was asked yet: nothing is answered.
  await expect(balance).toContainText('=0accepted');
  await page.getByRole('button', { name: 'Ask the channel to fetch it' }).click();
  await expect(balance).not.toContainText('=0accepted');
  await expect(balance.getByText('adds up')).toHaveCount(2);
  await page.getByRole('tab', { name: 'The channel’s report' }).click();
  await expect(page.getByText(/We do not print/).first()).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  expect((await download).suggestedFilename()).toMatch(/\.xml$/);
  await page.goto(`${process.env.VELVET_STANDINS}/orrivane`);
  await expect(page.getByRole('heading', { name: /\d+ items from Mosswick Supply/ })).toBeVisible();
});

test('the next rulebook is tried before it is taken', async ({ page }) => {
  await page.goto('/places/1/rulebook');
  await page.getByRole('button', { name: 'Try it on our goods' }).click();
  await expect(page.getByText(/listings would be blocked/)).toBeVisible();
});

for (const path of ['/', '/intake', '/catalog', '/causes', '/listings', '/places/1', '/feeds'])
  test(`axe finds nothing wrong on ${path}`, async ({ page }) => {
    expect(await faultsOn(page, path)).toEqual([]);
  });
