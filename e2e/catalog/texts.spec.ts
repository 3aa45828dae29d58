/** Values found in the texts of many goods, in the real interface: read, taken, turned down, taken back. In this order. */
import { expect, faultsOn, idle, moveByKey, read, test, undoAtTheFoot } from '../hands.js';

test('the texts of chosen goods are read, what they say is taken or turned down, and taken back', async ({ page }) => {
  await page.goto('/catalog');
  await page.getByLabel('Choose all of the view').click();
  await page.getByRole('button', { name: 'Their texts' }).click();
  await page.getByRole('menuitem', { name: 'Find values in them' }).click();
  await expect(page).toHaveURL(/\/catalog\/found$/);
  await idle(page);
  const values = page.getByRole('table', { name: 'Values found in texts' });
  const open = async (): Promise<number> => {
    const { attributes } = await read(page, '/api/found?limit=1');
    return attributes.reduce((sum: number, each: { open: number }) => sum + each.open, 0);
  };
  const before = await open();
  expect(before).toBeGreaterThan(2);
  await expect(values.locator('mark').first()).toBeVisible();
  await page
    .getByRole('button', { name: /^Take / })
    .nth(1)
    .click();
  await expect.poll(open).toBe(before - 1);
  // The list shows it, too: its first row is another now.
  await expect(page.getByRole('button', { name: `All ${before - 1}` })).toBeVisible();
  await values
    .getByRole('button', { name: / is not / })
    .first()
    .click();
  await expect.poll(open).toBe(before - 2);
  await undoAtTheFoot(page, 'Took 1 value from texts');
});

test('a description is written as it is seen, counted against channels, kept as markup, and taken back', async ({
  page,
}) => {
  const { id } = (await read(page, '/api/search?q=MS-AMB71-16-HA&only=ordered')).items[0];
  const held = async (): Promise<string> =>
    (await read(page, `/api/products/${id}`)).values.find(
      ({ type, language }: { type: string; language: string }) => type === 'richText' && language === 'en-GB',
    ).text;
  const before = await held();
  await page.goto(`/catalog/product/${id}?tab=texts`);
  const [product] = [page.getByRole('region', { name: /^Ambrel/ })];
  const text = product.getByRole('textbox', { name: /^Description/ });
  await text.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.keyboard.type('Fired twice');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Strong' }).click();
  await page.keyboard.type('Frost-proof');
  await expect(product.getByText(/left of [\d]+/).first()).toBeVisible();
  await page.getByRole('button', { name: /^Save/ }).click();
  await expect.poll(held).toContain('<ul><li><p>Fired twice</p></li><li><p><strong>Frost-proof</strong></p></li></ul>');
  const foot = page.getByRole('contentinfo');
  await foot.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(held).toBe(before);
  await expect(text.getByText('Fired twice')).toHaveCount(0);
  await page
    .getByRole('group', { name: 'Language' })
    .getByRole('button', { name: /German/ })
    .click();
  await expect(product.getByRole('textbox', { name: /^Title, German/ })).toBeVisible();
});

test('axe finds nothing wrong where texts are written', async ({ page }) => {
  const { id } = (await read(page, '/api/search?q=Ambrel&only=families')).items[0];
  expect(await faultsOn(page, `/catalog/product/${id}?tab=texts`)).toEqual([]);
});

test('axe finds nothing wrong with what was found in texts', async ({ page }) => {
  expect(await faultsOn(page, '/catalog/found')).toEqual([]);
});

test('titles are composed of values in their order, looked at first, written together and taken back', async ({
  page,
}) => {
  await page.goto('/catalog?search=Ambrel&show=variants');
  await page.getByLabel('Choose all of the view').click();
  await page.getByRole('button', { name: 'Their texts' }).click();
  await page.getByRole('menuitem', { name: 'Compose one…' }).click();
  const add = async (name: string) => {
    await page.getByLabel('Add a value').fill(name);
    await page.getByRole('option', { name, exact: true }).click();
  };
  await add('All its options');
  await add('Brand');
  const parts = page.getByRole('list', { name: 'Parts of the text' });
  await parts.getByRole('button', { name: 'Move Brand, place 2' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('Brand is over place 2 of 2')).toBeAttached();
  await moveByKey(page, 'ArrowUp', 'Brand is over place 1 of 2');
  await page.keyboard.press('Space');
  await parts.getByLabel('behind it').first().fill(' pot ');
  const examples = page.getByRole('table', { name: 'Examples' });
  await expect(examples.getByRole('cell', { name: /^Brackwater pot 13 cm, Oatmeal$/ })).toBeVisible();
  await expect(page.getByText(/^of 6 products; the longest has \d+ characters/)).toBeVisible();
  await page.getByRole('button', { name: 'Write 6 texts' }).click();
  await expect(page).toHaveURL(/\/catalog$/);
  await undoAtTheFoot(page, 'Composed Title of 6 products');
});

test('axe finds nothing wrong where texts are composed', async ({ page }) => {
  expect(await faultsOn(page, '/catalog/compose')).toEqual([]);
});

test('texts are proofread: a word is written otherwise in all of them and taken back, another is known from now on', async ({
  page,
}) => {
  const { id } = (await read(page, '/api/search?q=MS-AMB71-16-HA&only=ordered')).items[0];
  const held = async (): Promise<{ attribute: string; text: string }> =>
    (await read(page, `/api/products/${id}`)).values.find(
      ({ type, language }: { type: string; language: string }) => type === 'richText' && language === 'en-GB',
    );
  const { text: before } = await held();
  await page.goto(`/catalog/product/${id}?tab=texts`);
  const text = page.getByRole('region', { name: /^Ambrel/ }).getByRole('textbox', { name: /^Description/ });
  await text.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('It is glased twice and has no drainge hole.');
  await page.getByRole('button', { name: /^Save/ }).click();
  await expect.poll(async () => (await held()).text).toContain('glased');

  await page.goto('/catalog?search=AMB71');
  await page.getByLabel('Choose all of the view').click();
  await page.getByRole('button', { name: 'Their texts' }).click();
  await page.getByRole('menuitem', { name: 'Proofread them' }).click();
  await expect(page).toHaveURL(/\/catalog\/proofread$/);
  await idle(page);
  const word = (name: string) => page.getByRole('article', { name, exact: true });
  await expect(word('glased').locator('mark')).toHaveText('glased');
  await word('glased').getByRole('textbox', { name: 'Another word' }).fill('glazed');
  await word('glased').getByRole('button', { name: 'Write it' }).click();
  await expect(word('glased')).toHaveCount(0);
  await expect.poll(async () => (await held()).text).toContain('It is glazed twice');
  await undoAtTheFoot(page, /Wrote “glazed” for “glased”/);
  await expect.poll(async () => (await held()).text).toContain('It is glased twice');
  await expect(word('drainge').getByRole('button', { name: 'It is a word' })).toBeEnabled();
  await word('drainge').focus();
  await page.keyboard.press('w');
  await expect(word('drainge')).toHaveCount(0);
  await page.getByRole('button', { name: /^Said before/ }).click();
  await expect(page).toHaveURL(/about=repeated/);
  expect(await faultsOn(page, '/catalog/proofread')).toEqual([]);
  await undoAtTheFoot(page, /^Set Description/);
  await expect.poll(async () => (await held()).text).toBe(before);
});
