/** Goods chosen in the grid: set aside, given one value, brought back, each taken back. In this order. */
import { type Page, expect, faultsOn, test, undoAtTheFoot } from '../hands.js';

const variantsShown = async (page: Page): Promise<number> => {
  const words = page.getByText(/^[\d,]+ variants? of [\d,]+ famil/);
  await expect(words).toBeVisible();
  return Number(((await words.textContent()) ?? '').split(' ')[0]?.replace(',', ''));
};
const chosen = (page: Page) => page.getByRole('region', { name: 'Chosen goods' });

test('a family and a span of variants are chosen, by mouse and by keys, and all of the view but some', async ({
  page,
}) => {
  await page.goto('/catalog?search=Ambrel');
  await page.getByLabel('Choose Ambrel footed pot').click();
  await expect(chosen(page).getByText('6 variants of 1 product')).toBeVisible();
  await expect(page.getByLabel('Choose MS-AMB71-16-HA')).toBeChecked();
  await expect(page.getByLabel('Choose MS-AMB71-16-HA')).toBeDisabled();
  await chosen(page).getByRole('button', { name: 'Choose none' }).click();
  await expect(chosen(page)).toHaveCount(0);
  await page.getByLabel('Choose MS-AMB71-13-HA').click();
  await page.getByLabel('Choose MS-AMB71-16-HA').click({ modifiers: ['Shift'] });
  await expect(chosen(page).getByText('3 variants of 1 product')).toBeVisible();
  await page.getByRole('row', { name: /MS-AMB71-20-HA/ }).click();
  await page.getByRole('grid', { name: 'Products' }).focus();
  await page.keyboard.press('Space');
  await expect(chosen(page).getByText('4 variants of 1 product')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.getByLabel('Choose MS-AMB71-13-HA').click();
  await expect(chosen(page).getByText(/^5 variants of 1 product/)).toBeVisible();
});

test('what is set aside leaves the view, which says so; the line below brings it back', async ({ page }) => {
  await page.goto('/catalog?search=Ambrel');
  const before = await variantsShown(page);
  await page.getByLabel('Choose MS-AMB71-13-HA').click();
  await chosen(page).getByRole('button', { name: 'Set aside…' }).click();
  await chosen(page).getByLabel('Until').fill('2020-01-01');
  await chosen(page).getByRole('button', { name: 'Set aside', exact: true }).click();
  await expect(chosen(page).getByText(/day .* is past|still to come/)).toBeVisible();
  await chosen(page).getByLabel('Until').fill('');
  await chosen(page).getByLabel('Why').fill('for the spring');
  await chosen(page).getByRole('button', { name: 'Set aside', exact: true }).click();
  await expect.poll(() => variantsShown(page)).toBe(before - 1);
  await expect(page.getByText(/1 set aside/)).toBeVisible();
  await page.getByRole('button', { name: /^Bring back the \d+ with stock/ }).click();
  await expect.poll(() => variantsShown(page)).toBe(before);
  const foot = page.getByRole('contentinfo');
  await foot.getByRole('button', { name: 'Undo' }).click();
  await expect(foot.getByText(/^Set 1 product aside/)).toBeVisible();
  await foot.getByRole('button', { name: 'Undo' }).click();
  await expect(foot.getByText(/^Set 1 product aside/)).toHaveCount(0);
});

test('one value is given to all that are chosen, with what it changes told first', async ({ page }) => {
  await page.goto('/catalog?search=Ambrel');
  await page.getByLabel('Choose all of the view').click();
  await chosen(page).getByRole('button', { name: 'Give a value…' }).click();
  await chosen(page).getByLabel('Attribute').fill('Weight');
  await page.getByRole('option', { name: 'Weight', exact: true }).click();
  await chosen(page).getByLabel('Value', { exact: true }).fill('heavy');
  await expect(chosen(page).getByText(/“heavy”/)).toBeVisible();
  await expect(chosen(page).getByRole('button', { name: 'Give it to all' })).toBeDisabled();
  await chosen(page).getByLabel('Value', { exact: true }).fill('1.25 kg');
  await expect(chosen(page).getByText(/^6 products, \d of them with another value now/)).toBeVisible();
  await chosen(page).getByRole('button', { name: 'Give it to all' }).click();
  await undoAtTheFoot(page, 'Set Weight of 6 products');
});

test('axe finds nothing wrong with goods chosen', async ({ page }) => {
  expect(await faultsOn(page, '/catalog')).toEqual([]);
});
