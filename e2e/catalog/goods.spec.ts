/** Finding and mending goods by hand, in the real interface: conditions, sorting, edits that win and give way, two people at once. In this order. */
import { type Page, bringIn, expect, idle, moveByKey, read, test, undoAtTheFoot } from '../hands.js';

const sku = 'MS-HOL42-10-MO';
const shown = (page: Page) => page.getByText(/^[\d,]+ variants? of [\d,]+ famil/);
const variants = async (page: Page) =>
  Number((await shown(page).textContent())?.replace(/ variant.*/, '').replace(',', ''));
const drawer = (page: Page) => page.getByLabel('Product', { exact: true });

async function open(page: Page, words = sku): Promise<void> {
  await page.goto(`/catalog?show=variants&all=yes&search=${words}`);
  await page.getByRole('row').filter({ hasText: words }).first().click();
  await expect(drawer(page).getByRole('tab', { name: 'Facts' })).toBeVisible();
}

async function condition(page: Page, attribute: string, comparison: string, value?: string): Promise<void> {
  const form = page.getByRole('presentation').filter({ has: page.getByRole('button', { name: 'Add', exact: true }) });
  const soon = { timeout: 10_000 };
  const pick = async (at: number, option: string) => {
    await form.getByRole('combobox').nth(at).click(soon);
    await page.getByRole('option', { name: option, exact: true }).click(soon);
  };
  // A click that meets a list on its way out closes the form: then it is opened again.
  await expect(async () => {
    if (!(await form.isVisible())) await page.getByRole('button', { name: '+ Condition' }).click(soon);
    await pick(0, attribute);
    await pick(1, comparison);
    if (value !== undefined) await form.getByLabel('Value').fill(value, soon);
  }).toPass();
  await form.getByRole('button', { name: 'Add', exact: true }).click();
}

test('goods are narrowed by conditions that add up; the line below says what is left out, and clears it', async ({
  page,
}) => {
  await bringIn(page, 'mosswick-own.tsv');
  await page.goto('/catalog?show=variants&all=yes');
  await expect(shown(page)).toBeVisible();
  const all = await variants(page);
  expect(all).toBe(417);
  await condition(page, 'Diameter', 'is at least', '14 cm');
  await expect(page.getByText(/outside the conditions/)).toBeVisible();
  await expect.poll(() => variants(page)).toBeLessThan(all);
  const wide = await variants(page);
  await condition(page, 'Diameter', 'is at most', '150 mm');
  await expect.poll(() => variants(page)).toBeLessThan(wide);
  const between = await variants(page);
  expect(between).toBeGreaterThan(0);
  await expect(page.getByText(`${all - between} outside the conditions`)).toBeVisible();
  // The address keeps them.
  await page.reload();
  await expect.poll(() => variants(page)).toBe(between);
  await page.getByRole('button', { name: 'Clear search and conditions' }).click();
  await expect.poll(() => variants(page)).toBe(all);
});

test('a condition on nothing finds the goods without a value, and both halves make the whole', async ({ page }) => {
  await page.goto('/catalog?show=variants&all=yes');
  await condition(page, 'GTIN', 'is empty');
  await expect.poll(() => variants(page)).toBeLessThan(417);
  const without = await variants(page);
  await page.goto('/catalog?show=variants&all=yes');
  await condition(page, 'GTIN', 'is not empty');
  await expect.poll(() => variants(page)).toBe(417 - without);
});

test('a view is kept under a name, stands as a button, and shows the same once more', async ({ page }) => {
  await page.goto('/catalog?search=pot&show=variants&all=yes');
  const brands = page.getByRole('columnheader', { name: 'Brand' });
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitem', { name: 'Brand' }).click();
  await page.keyboard.press('Escape');
  await expect(brands).toBeVisible();
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Keep what is shown/ }).click();
  await page.getByLabel('Name of the view').fill('Pots to look at');
  await page.getByRole('button', { name: 'Keep the view' }).click();
  const button = page.getByRole('button', { name: 'Pots to look at' });
  await expect(button).toHaveAttribute('aria-pressed', 'true');
  await page.goto('/catalog');
  await expect(button).toHaveAttribute('aria-pressed', 'false');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('button', { name: 'Remove Brand' }).click();
  await page.keyboard.press('Escape');
  await expect(brands).toHaveCount(0);
  await button.click();
  await expect(brands).toBeVisible();
  await expect(page).toHaveURL(/search=pot/);
  await expect(page).toHaveURL(/show=variants/);
  await page.getByRole('button', { name: 'Views', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Change “Pots to look at”…' }).click();
  await page.getByRole('button', { name: 'Remove Pots to look at' }).click();
  await page.getByRole('button', { name: 'Remove Pots to look at' }).click();
  await expect(button).toHaveCount(0);
});

test('families alone, then sorted by stock; columns stay chosen', async ({ page }) => {
  await page.goto('/catalog?show=families&all=yes');
  await expect(page.getByRole('grid')).toHaveAttribute(
    'aria-rowcount',
    String(1 + (await read(page, '/api/shelf')).families || 77),
  );
  await page.goto('/catalog?show=variants&all=yes');
  await page.getByRole('columnheader', { name: 'Stock' }).getByRole('button').click();
  await page.getByRole('columnheader', { name: 'Stock' }).getByRole('button').click();
  await expect(page.getByRole('columnheader', { name: 'Stock' })).toHaveAttribute('aria-sort', 'descending');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitem', { name: 'Material' }).click();
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Material' })).toBeVisible();
});

test('groups of conditions narrow the goods, are read on their chip, and are opened again', async ({ page }) => {
  await page.goto('/catalog?search=Ambrel&show=variants');
  const shown = (n: number) => expect(page.getByText(new RegExp(`^${n} variants? of`))).toBeVisible();
  await shown(6);
  await page.getByRole('button', { name: '+ Group' }).click();
  const group = page.getByRole('group', { name: 'Group', exact: true });
  const compare = async (place: number, attribute: string, value: string) => {
    await group.getByLabel('Attribute').nth(place).click();
    await page.getByRole('option', { name: attribute, exact: true }).click();
    await group.getByLabel('Value').nth(place).fill(value);
  };
  await compare(0, 'SKU', 'MS-AMB71-13-HA');
  await group.getByRole('button', { name: '+ Condition' }).click();
  await compare(1, 'SKU', 'MS-AMB71-20-HA');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await shown(2);
  await page.reload();
  await shown(2);
  await page.getByRole('button', { name: /^one of: SKU is MS-AMB71-13-HA · SKU is MS-AMB71-20-HA/ }).click();
  await group.getByLabel('Goods of which').click();
  await page.getByRole('option', { name: 'none of these holds' }).click();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await shown(4);
});

test('columns are put in order, sized by keys and kept in sight, and are so again', async ({ page }) => {
  await page.goto('/catalog');
  const heads = async () =>
    (await page.getByRole('columnheader').allTextContents()).map((text) => text.trim()).filter(Boolean);
  await expect(page.getByRole('columnheader', { name: 'Category' })).toBeVisible();
  const before = await heads();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('button', { name: 'Move Price, place 2' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/Price is over place 2 of/)).toBeAttached();
  await moveByKey(page, 'ArrowUp', /Price is over place 1 of/);
  await page.keyboard.press('Space');
  // What is behind what is open is told to nobody.
  await page.keyboard.press('Escape');
  await expect.poll(heads).toEqual([before[0], 'Price', 'Category', ...before.slice(3)]);
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('button', { name: 'Keep Stock in sight' }).click();
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await heads())[1]).toBe('Stock');
  await page.reload();
  await expect.poll(async () => (await heads()).slice(0, 3)).toEqual([before[0], 'Stock', 'Price']);
  await page.getByRole('button', { name: 'Columns' }).click();
  const width = page.getByLabel('Width of Stock');
  await width.fill('9');
  await width.press('Enter');
  await expect(width).toHaveValue('40');
  await width.fill('140');
  await width.press('Enter');
  await page.keyboard.press('Escape');
  const wide = async () => (await page.getByRole('columnheader', { name: 'Stock' }).boundingBox())?.width;
  await expect.poll(wide).toBe(140);
  await page.reload();
  await expect.poll(wide).toBe(140);
  const edge = await page.getByRole('columnheader', { name: 'Stock' }).boundingBox();
  if (!edge) throw new Error('The head is not there');
  await page.mouse.move(edge.x + edge.width - 3, edge.y + edge.height / 2);
  await page.mouse.down();
  await page.mouse.move(edge.x + edge.width + 37, edge.y + edge.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(wide).toBe(180);
});

test('the arrow keys walk through the goods beside the open one', async ({ page }) => {
  await page.goto('/catalog?show=variants&all=yes');
  const chosen = page.locator('[role=row][aria-selected=true]');
  const top = page.locator('[role=row][aria-rowindex="2"]');
  await expect(top).toContainText('MS-');
  await expect(chosen).toHaveCount(0);
  await top.click();
  await expect(chosen).toHaveAttribute('aria-rowindex', '2');
  const first = await drawer(page).getByRole('heading').first().textContent();
  await page.getByRole('grid').focus();
  await page.keyboard.press('ArrowDown');
  await expect(chosen).toHaveAttribute('aria-rowindex', '3');
  await expect(drawer(page).getByRole('heading').first()).not.toHaveText(first ?? '');
  await page.keyboard.press('ArrowUp');
  await expect(chosen).toHaveAttribute('aria-rowindex', '2');
});

test('a person’s word wins, says so, and gives way again', async ({ page }) => {
  await open(page);
  const goods = drawer(page);
  const material = goods.getByRole('button', { name: 'Edit Material' });
  const before = (await material.textContent()) ?? '';
  await material.click();
  await goods.getByRole('textbox', { name: 'Material' }).fill('basalt');
  await goods.getByRole('button', { name: 'Save' }).click();
  await expect(material).toHaveText('basalt');
  await expect(goods.getByText(/Iris.* won over Mosswick own sheet/)).toBeVisible();
  await material.click();
  await goods.getByRole('button', { name: 'Let the sources speak again' }).click();
  await expect(material).toHaveText(before);
});

test('two moments are compared, and a value is put back to what it was', async ({ page }) => {
  await open(page);
  const goods = drawer(page);
  const material = goods.getByRole('button', { name: 'Edit Material' });
  const before = (await material.textContent()) ?? '';
  for (const text of ['basalt', 'granite']) {
    await material.click();
    await goods.getByRole('textbox', { name: 'Material' }).fill(text);
    await goods.getByRole('button', { name: 'Save' }).click();
    await expect(material).toHaveText(text);
  }
  await goods.getByRole('tab', { name: 'History' }).click();
  await goods
    .getByRole('button', { name: /^Compare with what was after Set Material/ })
    .first()
    .click();
  const moments = goods.getByRole('region', { name: 'Two moments' });
  await expect(moments.getByRole('row', { name: /Material/ })).toContainText(/basalt.*granite/);
  await moments.getByRole('button', { name: 'Put Material back' }).click();
  await expect(moments.getByText('Nothing differs.')).toBeVisible();
  await goods.getByRole('tab', { name: 'Facts' }).click();
  await expect(material).toHaveText('basalt');
  await undoAtTheFoot(page, 'Put a value back to what it was');
  await expect(material).toHaveText('granite');
  await material.click();
  await goods.getByRole('button', { name: 'Let the sources speak again' }).click();
  await expect(material).toHaveText(before);
});

test('a value is emptied on purpose, a list’s too, and the foot takes it back', async ({ page }) => {
  await open(page);
  const goods = drawer(page);
  const category = goods.getByRole('button', { name: 'Edit Category' });
  const before = (await category.textContent()) ?? '';
  await category.click();
  await goods.getByRole('combobox', { name: 'Category' }).click();
  await page.getByRole('option', { name: 'empty on purpose' }).click();
  await goods.getByRole('button', { name: 'Save' }).click();
  await expect(category).toHaveText('not given');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(category).toHaveText(before);
});

test('what cannot be a value is refused with what it should be, and nothing is lost', async ({ page }) => {
  await open(page);
  const goods = drawer(page);
  await goods.getByRole('button', { name: 'Edit Weight' }).click();
  const weight = goods.getByRole('textbox', { name: 'Weight' });
  await weight.fill('rather heavy');
  await goods.getByRole('button', { name: 'Save' }).click();
  await expect(goods.getByText(/“rather heavy” is not a number with a unit/)).toBeVisible();
  await expect(weight).toHaveValue('rather heavy');
  await weight.press('Escape');
  await expect(goods.getByRole('button', { name: 'Edit Weight' })).toBeVisible();
});

test('two people at one value: the second is told what it is now, and writes over it only when asked', async ({
  page,
  desk,
}) => {
  await open(page);
  const other = await desk.newPage();
  await open(other);
  for (const row of [page, other]) await drawer(row).getByRole('button', { name: 'Edit Colour' }).first().click();
  await drawer(page).getByRole('textbox', { name: 'Colour' }).fill('fern');
  await drawer(page).getByRole('button', { name: 'Save' }).click();
  await expect(drawer(page).getByRole('button', { name: 'Edit Colour' })).toHaveText('fern');
  await drawer(other).getByRole('textbox', { name: 'Colour' }).fill('lichen');
  await expect(drawer(other).getByText('Somebody has made it fern meanwhile.')).toBeVisible();
  await expect(drawer(other).getByRole('button', { name: 'Save' })).toBeDisabled();
  const { items } = await read(page, '/api/actions');
  expect(items.filter((row: { words: string }) => row.words.includes('Colour')).length).toBe(1);
  await drawer(other).getByRole('button', { name: 'Write over it' }).click();
  await drawer(other).getByRole('button', { name: 'Save' }).click();
  await expect(drawer(page).getByRole('button', { name: 'Edit Colour' })).toHaveText('lichen');
  await other.close();
});

test('a text in another language is written beside the others', async ({ page }) => {
  await open(page);
  const goods = drawer(page);
  await goods.getByRole('tab', { name: 'Texts' }).click();
  await goods.getByRole('button', { name: 'Edit Title · de-DE' }).click();
  await goods.getByRole('textbox', { name: 'Title · de-DE' }).fill('Hollin Übertopf, 10 cm');
  await goods.getByRole('button', { name: 'Save' }).click();
  await expect(goods.getByRole('button', { name: 'Edit Title · de-DE' })).toHaveText('Hollin Übertopf, 10 cm');
  await goods.getByRole('tab', { name: 'History' }).click();
  await expect(goods.getByText(/Hollin Übertopf/).first()).toBeVisible();
  // In the company’s own language nothing says so.
  await page.goto('/catalog?show=variants&all=yes');
  await condition(page, 'Title', 'contains', 'Hollin Übertopf');
  await expect(page.getByText('Nothing is shown')).toBeVisible();
});

test('the whole family is given a value at once, and its variants inherit it', async ({ page }) => {
  await open(page);
  const goods = drawer(page);
  await goods.getByRole('button', { name: 'Family', exact: true }).click();
  await goods.getByRole('button', { name: 'Edit Care' }).click();
  await goods.getByRole('textbox', { name: 'Care' }).fill('Rinse with rain');
  await goods.getByRole('button', { name: 'Save' }).click();
  await idle(page);
  await open(page, 'MS-HOL42-10-OC');
  await expect(drawer(page).getByRole('button', { name: 'Edit Care' })).toHaveText('Rinse with rain');
  await expect(
    drawer(page)
      .getByText(/from the family/)
      .first(),
  ).toBeVisible();
});

test('the grid stays where one has got to when something changes, here or by somebody else', async ({ page }) => {
  await page.goto('/catalog?show=variants&all=yes&sort=price');
  await expect(shown(page)).toBeVisible();
  const grid = page.getByRole('grid', { name: 'Products' });
  const place = () => grid.evaluate((row) => row.scrollTop);
  // Until the view is counted it is only as long as its first rows.
  const scroll = () =>
    grid.evaluate((row) => {
      row.scrollTop = 200 * 34;
      return row.scrollTop;
    });
  await expect.poll(scroll).toBe(200 * 34);
  await expect(grid.locator('[aria-rowindex="205"]')).not.toContainText('…');
  const row = grid.locator('[aria-rowindex="205"]');
  const words = await row.textContent();
  await row.click();
  const id = Number(new URL(page.url()).searchParams.get('open'));
  const { onHand, keptBack } = await read(page, `/api/products/${id}/stock`);
  const booked = await page.request.post(`/api/products/${id}/stock`, {
    data: { delta: 7, reason: 'found', madeAgainst: { onHand, keptBack } },
  });
  expect(booked.ok()).toBe(true);
  await expect(row).toContainText(String(onHand + 7));
  expect(await place()).toBe(200 * 34);
  await expect(page.getByText(/\d+ changes? since/)).toBeVisible();
  await page.getByRole('button', { name: 'refresh' }).click();
  await expect(page.getByText(/\d+ changes? since/)).toBeHidden();
  expect(await place()).toBe(200 * 34);
  expect((await row.textContent())?.slice(0, 20)).toBe(words?.slice(0, 20));
  // Another view begins at its top.
  await page.getByRole('columnheader', { name: /Stock/ }).getByRole('button').click();
  await expect.poll(place).toBe(0);
});

test('siblings stand by their sizes, the smallest first', async ({ page }) => {
  await open(page);
  await drawer(page).getByRole('tab', { name: 'Siblings' }).click();
  const rows = drawer(page).getByRole('listitem').filter({ hasText: /\d cm/ });
  await expect(rows.first()).toBeVisible();
  const sizes = (await rows.allTextContents()).map((text) => Number(/(\d+) cm/.exec(text)?.[1]));
  expect(new Set(sizes).size).toBeGreaterThan(1);
  expect(sizes).toEqual([...sizes].sort((a, b) => a - b));
});

test('what a title says is proposed with its words, and taken with one click', async ({ page }) => {
  await open(page);
  await drawer(page).getByRole('tab', { name: 'Texts' }).click();
  await drawer(page)
    .getByRole('button', { name: /^Edit Title · en/ })
    .click();
  await drawer(page)
    .getByRole('textbox', { name: /^Title · en/ })
    .fill('Pot, round, 3.25 kg');
  await drawer(page).getByRole('button', { name: 'Save', exact: true }).click();
  await drawer(page).getByRole('tab', { name: 'Facts' }).click();
  const found = drawer(page).getByRole('region', { name: 'Found in the texts' });
  await expect(found.locator('mark').filter({ hasText: '3.25 kg' })).toBeVisible();
  await found.getByRole('button', { name: 'Take Weight 3.25 kg' }).click();
  await expect(drawer(page).getByRole('button', { name: 'Edit Weight' })).toHaveText('3.25 kg');
  await expect(found.getByRole('button', { name: 'Take Weight 3.25 kg' })).toHaveCount(0);
});
