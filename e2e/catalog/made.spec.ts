/** Goods and categories by hand, in the real interface: made, joined, made one, each taken back. In this order. */
import { expect, faultsOn, idle, read, test, undoAtTheFoot } from '../hands.js';

test('a family is laid out from its options, corrected where it says, made, and taken back', async ({ page }) => {
  await page.goto('/catalog');
  await page.getByRole('link', { name: 'New product' }).click();
  await page.getByLabel('Title').fill('Wool blanket Fjell');
  await page.getByRole('textbox', { name: /^SKU( \*)?$/ }).fill('FJELL');
  await page.getByLabel(/^Price/).fill('129');
  await page.getByRole('button', { name: 'Add an option' }).click();
  await page.getByLabel('Option', { exact: true }).fill('Size');
  await page.getByLabel('Its values').fill('L; S; M; s');
  await expect(page.getByText('3 values · written twice: s')).toBeVisible();
  const table = page.getByRole('table', { name: 'Variants to make' });
  // In a shop's order, whatever order they were pasted in.
  await expect(table.getByLabel(/^SKU of/)).toHaveCount(3);
  expect(
    await table.getByLabel(/^SKU of/).evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value)),
  ).toEqual(['FJELL-S', 'FJELL-M', 'FJELL-L']);
  await page.getByLabel('Price of M').fill('dear');
  await page.getByRole('button', { name: 'Leave out L' }).click();
  await page.getByRole('button', { name: 'Make 2 variants' }).click();
  await expect(table.getByText('“dear” is not a price')).toBeVisible();
  await page.getByLabel('Price of M').fill('139');
  await page.getByRole('button', { name: 'Make 2 variants' }).click();
  const drawer = page.getByLabel('Product', { exact: true });
  await expect(drawer.getByRole('heading', { name: 'Wool blanket Fjell' })).toBeVisible();
  await drawer.getByRole('tab', { name: 'Variants' }).click();
  await expect(drawer.getByText('FJELL-M')).toBeVisible();
  await expect(drawer.getByText('FJELL-L')).toHaveCount(0);
  await undoAtTheFoot(page, 'Applied Wool blanket Fjell, by hand');
  await expect.poll(async () => (await read(page, '/api/search?q=FJELL')).items).toEqual([]);
});

test('a family is given a new value of an option, what is there already is known in any unit', async ({ page }) => {
  const [family] = (await read(page, '/api/search?q=Hollin')).items;
  await page.goto(`/catalog?open=${family.id}&tab=family`);
  await page.getByRole('link', { name: 'More variants' }).click();
  await expect(page.getByRole('heading', { name: 'New variants' })).toBeVisible();
  const field = page.getByLabel('New values of diameter');
  await field.fill('0.1 m; 990 mm');
  await expect(page.getByText('1 new value · there already: 0.1 m')).toBeVisible();
  const table = page.getByRole('table', { name: 'Variants to make' });
  // All but the first of the new ones are left out.
  for (const button of (await table.getByRole('button', { name: /^Leave out 990 mm/ }).all()).slice(1).reverse())
    await button.click();
  await page.getByRole('button', { name: 'Make 1 variant' }).click();
  const place = page.getByRole('gridcell', { name: /MS-HOL42-990MM-CHALK/ });
  await expect(place).toBeVisible();
  await undoAtTheFoot(page, /by hand/);
  await expect(place).toHaveCount(0);
});

test('a product is deleted with what goes with it said first, and is back with the undo', async ({ page }) => {
  const [{ id, sku }] = (await read(page, '/api/search?q=MS-HOL42-10&only=ordered')).items;
  const found = async () => (await read(page, `/api/search?q=${sku}&only=ordered`)).items.length;
  await page.goto(`/catalog?show=variants&all=yes&open=${id}`);
  const drawer = page.getByLabel('Product', { exact: true });
  await drawer.getByRole('button', { name: /^Delete / }).click();
  await expect(drawer.getByText(/1 variant.* will be silent until they are listed again/)).toBeVisible();
  const before = await found();
  await drawer.getByRole('button', { name: /^Delete / }).click();
  await expect(drawer).toHaveCount(0);
  await expect.poll(found).toBe(before - 1);
  await undoAtTheFoot(page, /out of the catalog/);
  await expect.poll(found).toBe(before);
});

test('two goods are found and joined by hand', async ({ page }) => {
  const [one, other] = (await read(page, '/api/search?q=MS-HOL42-10&only=ordered')).items;
  await page.goto(`/catalog?show=variants&all=yes&open=${one.id}`);
  await page.getByRole('link', { name: 'join with…' }).click();
  await page.getByLabel('Find the other').fill(other.sku);
  await page.getByRole('list', { name: 'Goods found' }).getByRole('button').first().click();
  await expect(page.getByRole('table', { name: 'Claims' })).toBeVisible();
  await page.getByRole('button', { name: 'The same goods' }).click();
  // Both stand on our own sheet: that is told, and nothing is joined.
  await expect(
    page.getByText(/They were not joined: both hold a record of/).or(page.getByText(/These two were not joined/)),
  ).toBeVisible();
  expect((await read(page, `/api/products/${other.id}`)).sku).toBe(other.sku);
});

test('two categories are made one, with what it does said before, and taken back', async ({ page }) => {
  await page.goto('/categories');
  const row = (name: string) => page.getByRole('treeitem', { name, exact: true });
  const goods = async (name: string) => Number(await row(name).locator('> span').last().textContent());
  const before = await goods('Indoor pots');
  expect(before).toBeGreaterThan(0);
  await row('Indoor pots').click();
  await page.getByRole('button', { name: 'Make one with another…' }).click();
  await page.getByLabel('Planters / Indoor pots becomes').fill('Tools');
  await page.getByRole('option', { name: 'Tools', exact: true }).click();
  await expect(page.getByText(`${before} products have Planters / Indoor pots and will have Tools.`)).toBeVisible();
  await page.getByRole('button', { name: 'Make one', exact: true }).click();
  await expect(row('Indoor pots')).toHaveCount(0);
  await idle(page);
  await undoAtTheFoot(page, 'Made Planters / Indoor pots one with Tools');
  await idle(page);
  await expect.poll(async () => (await row('Indoor pots').count()) && goods('Indoor pots')).toBe(before);
});

test('a category is moved by keys and by drag, with what stands below it, and taken back', async ({ page }) => {
  await page.goto('/categories');
  const row = (name: string) => page.getByRole('treeitem', { name, exact: true });
  const names = () => page.getByRole('treeitem').evaluateAll((rows) => rows.map((one) => one.ariaLabel));
  const level = (name: string) => row(name).getAttribute('aria-level');
  // By its number: all moves are told in the same words.
  const undoNewest = async () => {
    const { items } = await read(page, '/api/actions');
    expect((await page.request.post(`/api/actions/${items[0].id}/undo`)).status()).toBe(200);
  };
  await expect(row('Hanging planters')).toBeVisible();
  const before = await names();
  await row('Hanging planters').focus();
  await page.keyboard.press('Alt+ArrowUp');
  const earlier = async () => (await names()).indexOf('Hanging planters') - (await names()).indexOf('Indoor pots');
  await expect.poll(earlier).toBe(-1);
  await row('Hanging planters').focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect.poll(() => level('Hanging planters')).toBe('1');
  await undoNewest();
  await expect.poll(() => level('Hanging planters')).toBe('2');
  await row('Hanging planters').dragTo(row('Lighting'), { targetPosition: { x: 60, y: 17 } });
  await expect
    .poll(async () => (await names()).indexOf('Hanging planters'))
    .toBeGreaterThan(before.indexOf('Lighting') - 1);
  await idle(page);
  const [tree] = (await read(page, '/api/dictionary')).items.filter(
    ({ role }: { role: string }) => role === 'category',
  );
  const { items } = await read(page, `/api/dictionary/${tree.id}/values`);
  const paths = items.map(({ path }: { path: string[] }) => path.join(' / '));
  expect(paths).toContain('Lighting / Hanging planters');
  await undoNewest();
  await expect.poll(() => level('Hanging planters')).toBe('2');
  expect(await faultsOn(page, '/categories')).toEqual([]);
});

test('an attribute is worked out from others, seen on goods before it is kept, and made of another kind', async ({
  page,
}) => {
  const field = (name: string) => page.getByRole('combobox', { name, exact: true });
  const choose = async (name: string, option: string) => {
    await field(name).last().click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  await page.goto('/attributes?make=one');
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Side seen');
  await choose('Is', 'measure');
  await choose('Of', 'area');
  await choose('Where nobody says it, it is', 'the product of others');
  for (const side of ['Diameter', 'Height']) {
    await field('Of').last().fill(side);
    await page.getByRole('option', { name: side, exact: true }).click();
  }
  await page.keyboard.press('Escape');
  await choose('Given in', 'cm²');
  const examples = page.getByRole('table', { name: 'What comes of it' });
  await expect(examples.getByRole('row').nth(1)).toContainText(/cm².*diameter .* × height /);
  await page.getByRole('button', { name: 'Make the attribute' }).click();
  await expect(page.getByRole('row', { name: /^Side seen .*the product of others/ })).toBeVisible();
  await idle(page);
  await undoAtTheFoot(page, 'Made the attribute Side seen');

  await page.goto('/attributes');
  await page.getByRole('button', { name: 'pH', exact: true }).click();
  await page.getByRole('button', { name: 'Change what it is…' }).click();
  await choose('Shall be', 'number');
  await expect(page.getByText(/^0 of \d+ goods keep their value; \d+ would have none/)).toBeVisible();
  await expect(page.getByRole('table', { name: 'Values that cannot be read so' })).toContainText('is not a number');
  await choose('Shall be', 'one of a list');
  await expect(page.getByRole('table', { name: 'Values as they become' })).toBeVisible();
  await page.getByRole('button', { name: 'Change it', exact: true }).click();
  await expect(page.getByRole('row', { name: /^pH .*one of a list, \d+ values/ })).toBeVisible();
  await idle(page);
  await undoAtTheFoot(page, 'Changed what pH is');
  await idle(page);
  await expect(page.getByRole('row', { name: /^pH Growing text/ })).toBeVisible();
  expect(await faultsOn(page, '/attributes')).toEqual([]);
});

for (const path of ['/catalog/new', '/matching/by-hand?a=1'])
  test(`axe finds nothing wrong on ${path}`, async ({ page }) => expect(await faultsOn(page, path)).toEqual([]));
