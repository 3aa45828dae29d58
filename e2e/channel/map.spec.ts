/** The category map in the real interface: our tree beside the channel's, a place chosen in it, goods of one category split by a condition. */
import { expect, faultsOn, idle, read, test } from '../hands.js';

test.describe.configure({ mode: 'serial' });

test('a category is put where one clicks in the channel’s tree, and taken back', async ({ page }) => {
  await page.goto('/places/1/categories');
  const map = page.getByRole('table', { name: 'Category map' });
  await map.getByRole('button', { name: /Indoor pots$/ }).click();
  const panel = page.getByRole('region', { name: /Indoor pots$/ });
  await expect(panel.getByText(/^stands in /)).toContainText('Indoor pots');
  const tree = panel.getByRole('tree', { name: 'The channel’s tree' });
  await expect(tree.getByRole('treeitem', { name: /^Indoor pots/ })).toBeVisible();
  await panel.getByLabel('Search the channel’s tree').fill('growing sets');
  await tree.getByRole('treeitem', { name: /^Growing sets/ }).click();
  await expect(panel.getByText(/^stands in /)).toContainText('Growing sets');
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(panel.getByText(/^stands in /)).toContainText('Indoor pots');
});

test('suggestions are taken together from a score on, which says how many of them are right', async ({ page }) => {
  await page.goto('/places/1/categories');
  const { items } = await read(page, '/api/places/1/categories');
  const { category, target } = items.find(({ names }: { names: string[] }) => names.at(-1) === 'Indoor pots');
  const headers = { origin: new URL(page.url()).origin };
  const map = async (to: string | null) => {
    const maps = [{ category, target: to }];
    expect((await page.request.put('/api/places/1/categories', { headers, data: { maps } })).status()).toBe(200);
    await idle(page);
  };
  await map(null);
  await page.reload();
  await page.getByLabel('Take together').click();
  await page.getByRole('option', { name: 'from 50 % on' }).click();
  await page.getByRole('button', { name: /^See what \d+ suggestions? would do/ }).click();
  await expect(page.getByText(/By their scores about \d+ of \d+ are right/)).toBeVisible();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await map(target);
});

test('some goods of a category stand elsewhere: by a condition, tried before it is kept', async ({ page }) => {
  await page.goto('/places/1/categories');
  const map = page.getByRole('table', { name: 'Category map' });
  await map.getByRole('button', { name: /Indoor pots$/ }).click();
  const panel = page.getByRole('region', { name: /Indoor pots$/ });
  await panel.getByRole('button', { name: 'Some of them elsewhere' }).click();
  const split = panel.getByRole('group', { name: 'Split 1' });
  await split.getByLabel('Attribute').click();
  await page.getByRole('option', { name: 'Stock', exact: true }).click();
  await split.getByLabel('Comparison').click();
  await page.getByRole('option', { name: 'is at least' }).click();
  await split.getByLabel('Value').fill('10');
  await expect(panel.getByText('Choose where each of them stands.')).toBeVisible();
  await panel.getByLabel('Category of split 1').fill('Growing sets');
  await page.getByRole('option', { name: /Growing sets$/ }).click();
  await expect(panel.getByRole('status').filter({ hasText: /become/ })).toBeVisible();
  await panel.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText(/^Kept; /)).toBeVisible();
  await expect(map.getByRole('row').filter({ hasText: /Indoor pots/ })).toContainText('1 split');
  await panel.getByRole('button', { name: 'Remove split 1' }).click();
  await panel.getByRole('button', { name: 'Keep it' }).click();
  await expect(map.getByText('1 split')).toHaveCount(0);
});

test('axe finds nothing wrong on the category map', async ({ page }) => {
  expect(await faultsOn(page, '/places/1/categories')).toEqual([]);
});
