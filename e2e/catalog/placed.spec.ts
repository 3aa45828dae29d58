/** Families by hand: broken up, made again from titles and as one, a variant put elsewhere; each taken back at the foot. In this order. */
import { type Page, expect, faultsOn, test, undoAtTheFoot } from '../hands.js';

const foot = (page: Page) => page.getByRole('contentinfo');
const open = async (page: Page, row: RegExp) => {
  await page.getByRole('row', { name: row }).click();
  return page.getByRole('complementary', { name: 'Product' });
};

test('a family is broken up, told first; its goods are made families again from their titles, and one by a word', async ({
  page,
}) => {
  await page.goto('/catalog?search=Ambrel');
  const drawer = await open(page, /Ambrel footed pot 6 variants/);
  await drawer.getByRole('button', { name: 'Break the family up' }).click();
  await expect(drawer.getByText(/^6 variants will stand alone/)).toBeVisible();
  await drawer.getByRole('button', { name: 'Break it up' }).click();
  await expect(foot(page).getByText('Broke up Ambrel footed pot, 6 variants')).toBeVisible();
  await expect(drawer.getByRole('button', { name: 'Put into a family…' })).toBeVisible();
  await page.goto('/catalog?search=Ambrel&show=variants');
  await page.getByLabel('Choose all of the view').click();
  await page.getByRole('button', { name: 'Make families…' }).click();
  await expect(page.getByRole('heading', { name: 'Families from titles' })).toBeVisible();
  await expect(page.getByText('in 6 single products you chose')).toBeVisible();
  expect(await faultsOn(page, '/catalog/families')).toEqual([]);
  await page.goBack();
  await page.goto('/catalog?search=Ambrel&show=variants');
  await page.getByLabel('Choose all of the view').click();
  await page.getByRole('button', { name: 'Make families…' }).click();
  await page.getByRole('button', { name: 'All I chose are one family' }).click();
  const form = page.getByRole('form', { name: /Ambrel/ });
  await expect(form.getByText('6 products')).toBeVisible();
  await form.getByRole('checkbox').first().uncheck();
  await expect(form.getByText('5 products')).toBeVisible();
  await form.getByRole('checkbox').first().check();
  await form.getByRole('button', { name: 'Make this family' }).click();
  await expect(page).toHaveURL(/\/catalog\/product\/\d+/);
  await expect(page.getByRole('region', { name: /Ambrel/ }).getByText(/6 variants/)).toBeVisible();
  await undoAtTheFoot(page, /^Made a family of 6 products/);
  await undoAtTheFoot(page, /^Broke up Ambrel/);
  await page.goto('/catalog?search=Ambrel&show=families');
  await expect(page.getByRole('row', { name: /Ambrel footed pot.*6 variants/ })).toBeVisible();
});

test('a variant is put into another family with what it is there, warned of one that is alike, and taken out', async ({
  page,
}) => {
  await page.goto('/catalog?search=Ambrel&show=variants');
  const drawer = await open(page, /MS-AMB71-13-HA/);
  await drawer.getByRole('button', { name: 'Put into another family…' }).click();
  await drawer.getByLabel('Family', { exact: true }).fill('Corran');
  await page.getByRole('option', { name: /Corran mini pot/ }).click();
  const form = drawer.getByRole('form', { name: 'Put into a family' });
  await form.getByLabel('diameter').fill('8 cm');
  await form.getByLabel('glaze').fill('Moss');
  await expect(form.getByText(/^The family has .* already/)).toBeVisible();
  await form.getByLabel('diameter').fill('13 cm');
  await expect(form.getByText(/already/)).toHaveCount(0);
  await form.getByRole('button', { name: 'Put it there' }).click();
  await expect(drawer.getByText('9 variants')).toBeVisible();
  await undoAtTheFoot(page, /^Put MS-AMB71-13-HA into a family/);
  await page.goto('/catalog?search=Ambrel&show=variants');
  await open(page, /MS-AMB71-13-HA/);
  await drawer.getByRole('button', { name: 'Take out of its family' }).click();
  await undoAtTheFoot(page, /^Took MS-AMB71-13-HA out of its family/);
});
