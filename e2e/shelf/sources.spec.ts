/** Every file a supplier sends, and one product out of several sources, in the real interface. After path.spec, in this order. */
import { readFileSync } from 'node:fs';
import { applied, drop, expect, faultsOn, idle, moveByKey, picked, test, tryIt } from '../hands.js';

test('a workbook: sheets and hidden columns are said, our goods tell its words, listings’ fate is foreseen', async ({
  page,
}) => {
  await drop(page, 'lumenloam-lighting.xlsx');
  await expect(page.getByText('XLSX workbook', { exact: true })).toBeVisible();
  await expect(page.getByText('header in row 3, 69 rows below it')).toBeVisible();
  await expect(page.getByText('hidden column “Factor” on Lamps, 10 merged ranges')).toBeVisible();
  await page
    .getByRole('button', { name: /^Take all \d that our own goods tell/ })
    .first()
    .click();
  await expect(picked(page, 'Type Pendant becomes')).toHaveText('Lighting / Grow lamps');
  await page.getByRole('tab', { name: 'First rows' }).click();
  await expect(page.getByRole('cell', { name: '6 W', exact: true }).first()).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('18 would be created · 70 would join goods we have')).toBeVisible();
  await expect(page.getByText(/listings would be added/)).toBeVisible();
  await page.getByRole('button', { name: 'Apply 88 rows' }).click();
  await applied(page);
});

test('nested JSON: the paths of items and variants can be corrected', async ({ page }) => {
  await drop(page, 'kestrelgate-seeds.json');
  const variants = picked(page, 'Variants are');
  await expect(variants).toContainText('packets');
  await variants.click();
  await page.getByRole('option', { name: 'none: one row an item' }).click();
  await expect(page.getByText('packets[1].code', { exact: true })).toBeVisible();
  await variants.click();
  await page.getByRole('option', { name: /^packets/ }).click();
  await expect(page.getByText('packets.code', { exact: true })).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('81 would be created · 37 would join goods we have')).toBeVisible();
  await page.getByRole('button', { name: 'Apply 118 rows' }).click();
  await applied(page);
});

test('rows are picked out and corrected in the dry run; the rest is applied', async ({ page }) => {
  await drop(page, 'few-pots.csv', 'SKU;Name;Weight\nX-1;Pot one;1 kg\n;Pot two;2 kg\nX-3;Pot three;heavy\n');
  await tryIt(page);
  await page
    .getByRole('row', { name: /Pot two/ })
    .getByRole('button', { name: 'Correct this row' })
    .click();
  await page.getByRole('dialog').getByLabel('SKU').fill('X-2');
  await page.getByRole('button', { name: 'Save and judge again' }).click();
  await expect(page.getByText('3 would be created')).toBeVisible();
  await page.getByLabel('Apply row 4').click();
  await expect(page.getByLabel('Apply row 4')).not.toBeChecked();
  await page.getByRole('button', { name: 'Apply 2 rows, leave 1 out' }).click();
  await applied(page);
  await page.getByRole('button', { name: 'Bring in what was picked out' }).click();
  await expect(page.getByText('1 would be created')).toBeVisible();
});

test('pairs are decided with one key each; undo takes a decision back', async ({ page }) => {
  await idle(page);
  await page.goto('/matching');
  const left = page.getByText(/\d+ pairs look like the same goods/);
  await expect(left).toBeVisible();
  const n = async () => Number((await left.textContent())?.match(/\d+/)?.[0]);
  const before = await n();
  await expect(page.getByText(/titles share/).first()).toBeVisible();
  await page.keyboard.press('s');
  await expect(page.getByText('1 pair joined')).toBeVisible();
  await expect.poll(n).toBeLessThan(before);
  const after = await n();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('d');
  await expect(page.getByText('1 pair kept apart')).toBeVisible();
  await expect.poll(n).toBe(after - 1);
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Kept/)).toBeVisible();
});

test('joined goods show every claim and who wins; they are split again', async ({ page }) => {
  await page.goto('/matching?tab=joined');
  await page.getByLabel('Find goods').fill('Hollin');
  await page
    .getByRole('button', { name: /Hollin.*Brackwater/ })
    .first()
    .click();
  await expect(page.getByText('first in the ranking of sources').first()).toBeVisible();
  const box = page.getByLabel(/^Brackwater Pottery BW-/);
  await box.check();
  await page.getByRole('button', { name: 'Split' }).click();
  await expect(page.getByText(/Split into 2 products/)).toBeVisible();
});

test('whose word counts: a policy, and an order of sources moved by keys', async ({ page }) => {
  await page.goto('/matching?tab=trust');
  const weight = page.getByRole('row').filter({ hasText: 'Weight' });
  await weight.getByRole('combobox').click();
  await page.getByRole('option', { name: 'the highest value' }).click();
  await expect(page.getByText(/^Saved; \d+ products changed/)).toBeVisible();
  await weight.getByRole('combobox').click();
  await page.getByRole('option', { name: 'the best source in order' }).click();
  await weight.getByRole('button', { name: 'An order of its own' }).click();
  const order = page.getByLabel('Order of sources for Weight');
  await expect(order.getByRole('listitem').first()).toContainText('Mosswick own sheet');
  const second = order.getByRole('button').nth(1);
  await second.focus();
  await page.keyboard.press('Space');
  await expect(second).toHaveAttribute('aria-pressed', 'true');
  // The keys are heard once the sources are measured.
  await expect(page.getByText('Brackwater Pottery is over place 2')).toBeAttached();
  await moveByKey(page, 'ArrowLeft', 'Brackwater Pottery is over place 1');
  await page.keyboard.press('Space');
  await expect(order.getByRole('listitem').first()).toContainText('Brackwater Pottery');
});

test('the grid goes out as a file and comes back unchanged; a changed cell comes back as an edit', async ({ page }) => {
  await page.goto('/catalog');
  await page.getByLabel('Search goods').fill('MS-HOL42-10-SF');
  await expect(page.getByText('1 variant of 1 family')).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'What is shown, as CSV' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  await drop(page, 'grid.csv', text);
  await expect(page.getByText('Your own grid, brought back')).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('0 would be changed')).toBeVisible();
  await drop(page, 'grid-2.csv', text.replace(/,\d+\r\n$/, ',321\r\n'));
  await tryIt(page);
  await expect(page.getByText('1 would be changed')).toBeVisible();
  await page.getByRole('button', { name: 'Apply 1 row' }).click();
  await applied(page);
  await page.goto('/catalog?search=MS-HOL42-10-SF&show=variants');
  await expect(page.getByRole('row').filter({ hasText: 'MS-HOL42-10-SF' })).toContainText('321');
});

test('a shop is pulled, and one item is fetched by its identifier', async ({ page }) => {
  await page.goto('/intake');
  await page.getByRole('button', { name: 'Pull now' }).click();
  await page.getByRole('link', { name: 'its batch' }).click();
  await expect(page.getByText('JSON Lines', { exact: true })).toBeVisible();
  await page.goto('/intake');
  await page.getByLabel('Identifier of the item').fill('2790000010748');
  await page.getByRole('button', { name: 'Fetch', exact: true }).click();
  await tryIt(page);
  await page.getByRole('button', { name: 'Correct this row' }).click();
  await page.getByRole('dialog').getByLabel('SKU').fill('MS-SCISSORS');
  await page.getByRole('button', { name: 'Save and judge again' }).click();
  await expect(page.getByText('1 would be created')).toBeVisible();
});

const looked = [
  ...['/matching', '/matching?tab=joined', '/matching?tab=keys', '/matching?tab=trust', '/intake'],
  ...['/intake/1?tab=columns', '/intake/1?tab=first', '/intake/1?tab=rows', '/catalog?open=1', '/listings?open=1'],
];
for (const path of looked)
  test(`axe finds nothing wrong on ${path}`, async ({ page }) => {
    expect(await faultsOn(page, path)).toEqual([]);
  });
