/** The page of a product, in the real interface: its rack, what channels ask, its options, each taken back. In this order. */
import { type Page, expect, faultsOn, idle, moveByKey, read, test, undoAtTheFoot } from '../hands.js';

const familyNamed = async (page: Page, words: string) =>
  (await read(page, `/api/search?q=${words}`)).items.find(({ kind }: { kind: string }) => kind === 'family').id;

async function openFamily(page: Page, words: string, more = ''): Promise<number> {
  const id = await familyNamed(page, words);
  await page.goto(`/catalog/product/${id}${more}`);
  await expect(page.getByRole('grid')).toBeVisible();
  return id;
}

const product = (page: Page, id: number) => read(page, `/api/products/${id}`);

test('a family stands on its rack: arrows go from place to place, and what differs is beside it', async ({ page }) => {
  await page.goto('/catalog?search=Ambrel');
  await page
    .getByRole('row', { name: /Ambrel footed pot/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'Open the whole page' }).click();
  await expect(page.getByRole('heading', { name: 'Ambrel footed pot', level: 1 })).toBeVisible();
  const rack = page.getByRole('grid', { name: 'diameter by glaze' });
  await expect(rack.getByRole('gridcell')).toHaveCount(6);
  expect(await rack.getByRole('rowheader').allTextContents()).toEqual(['13 cm', '16 cm', '20 cm']);
  await rack.getByRole('gridcell', { name: /^13 cm, Oatmeal/ }).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  const chosen = rack.getByRole('gridcell', { selected: true });
  await expect(chosen).toHaveAccessibleName(/^16 cm, Rust/);
  await expect(
    page.getByRole('region', { name: 'Values of 16 cm, Rust' }).getByText('MS-AMB71-16-EI').first(),
  ).toBeVisible();
  await page.keyboard.press('Space');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Space');
  const bar = page.getByRole('region', { name: 'Chosen goods' });
  await expect(bar.getByText('2 variants of 1 product')).toBeVisible();
  await expect(chosen).toHaveCount(2);
  await bar.getByRole('button', { name: 'Choose all of the family' }).click();
  await expect(bar.getByText('6 variants of 1 product')).toBeVisible();
  await bar.getByRole('button', { name: 'Choose none' }).click();
  await expect(chosen).toHaveCount(1);
  await page.getByRole('button', { name: /^Turn the rack/ }).click();
  await expect(page.getByRole('grid', { name: 'glaze by diameter' })).toBeVisible();
  await expect(page.getByRole('gridcell', { selected: true })).toHaveAccessibleName(/^Rust, 16 cm/);
});

test('what channels ask is written once, tried before it is saved, and taken back', async ({ page }) => {
  const id = await openFamily(page, 'Ambrel', '?list=yes');
  await page.getByRole('gridcell', { name: /^16 cm, Oatmeal/ }).click();
  const asks = page.getByRole('list', { name: 'What channels ask for' });
  const title = asks.getByRole('listitem', { name: 'Title, British English' });
  await expect(title.getByText(/sales talk/)).toBeVisible();
  await expect(title.getByRole('img', { name: /must be there/ })).toBeVisible();
  const field = title.getByRole('textbox');
  const before = await field.inputValue();
  await field.fill(before.replace(/ FREE DELIVERY!*/i, ''));
  await expect(title.getByText(/^\d+ of \d+ characters$/)).toBeVisible();
  const foot = page.getByRole('region', { name: 'Everything any channel asks' });
  await expect(foot.getByText('1 value, 1 product')).toBeVisible();
  await expect(foot.getByText(/become? ready/)).toBeVisible();
  // Whoever leaves is asked first.
  await page.getByRole('link', { name: 'Catalog', exact: true }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stay' }).click();
  await field.press('Control+Enter');
  // On to the next product of the view.
  await expect(page).not.toHaveURL(new RegExp(`/catalog/product/${id}\\b`));
  const held = async () => {
    const { siblings } = await product(page, id);
    return siblings.find(({ sku }: { sku: string }) => sku === 'MS-AMB71-16-HA').title;
  };
  expect(await held()).not.toMatch(/FREE/);
  await undoAtTheFoot(page, /^Set Title/);
  await expect.poll(held).toMatch(/FREE/);
});

test('a value somebody else has changed meanwhile is not written over unseen', async ({ page }) => {
  const id = await openFamily(page, 'Ambrel');
  await page.getByRole('gridcell', { name: /^20 cm, Rust/ }).click();
  await page.getByRole('button', { name: /^All/ }).click();
  const field = page.getByRole('listitem', { name: 'Brand' }).getByRole('textbox');
  await expect(field).not.toHaveValue('');
  const held = await field.inputValue();
  const { siblings } = await product(page, id);
  const { id: variant } = siblings.find(({ options }: { options: [string, string][] }) =>
    options.every(([, value]) => ['20 cm', 'Rust'].includes(value)),
  );
  await field.fill('Mine');
  await page.request.patch(`/api/products/${variant}`, {
    data: { edits: [{ attribute: 'brand', text: 'Theirs', madeAgainst: held }] },
  });
  await expect(page.getByText(/it is now “Theirs”/)).toBeVisible();
  await page.getByRole('button', { name: 'Write mine over theirs' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const brandOf = async () => {
    const { values } = await product(page, variant);
    return values.find(({ attribute }: { attribute: string }) => attribute === 'brand').text;
  };
  await expect.poll(brandOf).toBe('Mine');
  // What the other one has done is taken back too, past the foot: it has the same words.
  for (const brand of ['Theirs', held]) {
    const { items } = await read(page, '/api/actions');
    await page.request.post(`/api/actions/${items.find(({ canUndo }: { canUndo: boolean }) => canUndo).id}/undo`);
    await expect.poll(brandOf).toBe(brand);
  }
});

test('options are renamed, hidden and made dearer in place, with what it does told first', async ({ page }) => {
  const id = await openFamily(page, 'Ambrel');
  await page.getByRole('button', { name: 'Change options' }).click();
  await page.getByLabel('Name of Rust').fill('OATMEAL');
  await page.getByLabel('Name of diameter').fill('glaze');
  await expect(page.getByText('“glaze” stands there twice')).toBeVisible();
  await page.getByLabel('Name of diameter').fill('across');
  await page.getByLabel('Name of Rust').fill('Terracotta');
  await page.getByLabel('Hide Oatmeal').click();
  await expect(page.getByText(/3 listings leave their assortment/)).toBeVisible();
  await page.getByRole('button', { name: 'Save options' }).click();
  const rack = page.getByRole('grid', { name: 'across by glaze' });
  await expect(rack.getByRole('columnheader', { name: 'Terracotta' })).toBeVisible();
  await expect(rack.getByRole('gridcell', { name: /hidden$/ })).toHaveCount(3);
  const { siblings } = await product(page, id);
  expect(siblings.filter(({ isHidden }: { isHidden: boolean }) => isHidden)).toHaveLength(3);
  await undoAtTheFoot(page, /^Options of Ambrel/);
  await expect(page.getByRole('grid', { name: 'diameter by glaze' })).toBeVisible();
  await expect(page.getByRole('gridcell', { name: /hidden$/ })).toHaveCount(0);
});

test('values are put in another order by keys, and sorted again', async ({ page }) => {
  await page.goto(`/catalog/product/${await familyNamed(page, 'Ambrel')}?options=yes`);
  const values = page.getByRole('list', { name: 'Values of diameter' });
  const shown = () =>
    values
      .getByRole('textbox', { name: /^Name of/ })
      .evaluateAll((all) => all.map((field) => (field as HTMLInputElement).value));
  await expect.poll(shown).toEqual(['13 cm', '16 cm', '20 cm']);
  await values.getByRole('button', { name: 'Move 20 cm' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/20 cm is over place 3 of 3/)).toBeAttached();
  await moveByKey(page, 'ArrowUp', /20 cm is over place 2 of 3/);
  await page.keyboard.press('Space');
  await expect.poll(shown).toEqual(['13 cm', '20 cm', '16 cm']);
  await page.getByRole('button', { name: 'Sort the values of diameter' }).click();
  await expect.poll(shown).toEqual(['13 cm', '16 cm', '20 cm']);
});

test('an option more: variants keep what they are, and the rest of the combinations is made', async ({ page }) => {
  const id = await openFamily(page, 'Ambrel');
  const before = (await product(page, id)).siblings;
  await page.getByRole('button', { name: 'Change options' }).click();
  await page.getByRole('button', { name: 'Add an option' }).click();
  await page.getByLabel('New option').fill('saucer');
  await page.getByLabel('Value of all').fill('without');
  await expect(page.getByText(/^6 variants keep SKU, GTIN, stock and links/)).toBeVisible();
  await page.getByRole('button', { name: 'Save options' }).click();
  await page.getByRole('link', { name: 'Paste values' }).click();
  await page.getByLabel('New values of saucer').fill('with; Without');
  await expect(page.getByText('1 new value · there already: Without')).toBeVisible();
  await page.getByRole('button', { name: 'Make 6 variants' }).click();
  await expect(page.getByLabel('saucer', { exact: true })).toBeAttached();
  const after = (await product(page, id)).siblings;
  expect(after).toHaveLength(12);
  for (const { id: kept, sku, stock } of before)
    expect(after.find((sibling: { id: number }) => sibling.id === kept)).toMatchObject({ sku, stock });
  await idle(page);
  await undoAtTheFoot(page, /by hand/);
  await undoAtTheFoot(page, /^Options of Ambrel/);
  await expect.poll(async () => (await product(page, id)).siblings.length).toBe(6);
});

test('another like it takes over what names no one thing alone, and is made under a number of its own', async ({
  page,
}) => {
  const id = await openFamily(page, 'Ambrel');
  await page.getByRole('link', { name: 'Another like it' }).click();
  await expect(page.getByRole('heading', { name: 'New product' })).toBeVisible();
  await expect(page.getByLabel('Title')).toHaveValue('Ambrel footed pot');
  await expect(page.getByText(/^As Ambrel footed pot has it: /)).toBeVisible();
  await expect(page.getByRole('group', { name: 'Option 2' }).getByLabel('Its values')).toHaveValue(/Oatmeal\nRust/);
  await page.getByLabel('Title').fill('Brindle footed pot');
  await page.getByRole('textbox', { name: /^SKU( \*)?$/ }).fill('BRINDLE');
  await page.getByRole('button', { name: 'Make 6 variants' }).click();
  await expect(
    page.getByLabel('Product', { exact: true }).getByRole('heading', { name: 'Brindle footed pot' }),
  ).toBeVisible();
  const made = await familyNamed(page, 'Brindle');
  const [before, after] = [await product(page, id), await product(page, made)];
  expect(after.category).toEqual(before.category);
  expect(after.siblings).toHaveLength(6);
  await undoAtTheFoot(page, /by hand/);
});

for (const more of ['', '?options=yes', '?tab=values', '?tab=pictures'])
  test(`axe finds nothing wrong on the page of a product${more}`, async ({ page }) => {
    const id = await familyNamed(page, 'Ambrel');
    expect(await faultsOn(page, `/catalog/product/${id}${more}`)).toEqual([]);
  });
