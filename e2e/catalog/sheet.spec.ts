/** The sheet in the real interface: written, pasted, filled, found and replaced, reviewed, saved and taken back. */
import { type Page, expect, faultsOn, idle, read, test } from '../hands.js';

const grid = (page: Page) => page.getByRole('grid', { name: 'Goods, cell by cell' });
const cell = (page: Page, row: number, column: number) =>
  grid(page).locator(`[data-row="${row}"][data-column="${column}"]`);

/** The sheet of some goods with a few columns: GTIN, material and title after the two that name the goods. */
async function open(page: Page): Promise<void> {
  const columns = JSON.stringify(['gtin', 'material', 'title@en-GB', 'stock']);
  await page.goto(`/catalog/sheet?search=hollin&all=yes&columns=${encodeURIComponent(columns)}`);
  await expect(cell(page, 2, 4)).not.toHaveText('…');
}

/** What a spreadsheet would hand over. */
const paste = (page: Page, text: string) =>
  grid(page).evaluate((sheet, given) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', given);
    sheet.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  }, text);
const copy = (page: Page) =>
  grid(page).evaluate((sheet) => {
    const clipboardData = new DataTransfer();
    sheet.dispatchEvent(new ClipboardEvent('copy', { clipboardData, bubbles: true, cancelable: true }));
    return clipboardData.getData('text/plain');
  });
const unsaved = (page: Page) => page.getByRole('region', { name: 'What is not saved yet' });

test('a block is pasted, what cannot be saved is told at its cell, the rest is saved and taken back', async ({
  page,
}) => {
  await open(page);
  const before = await cell(page, 0, 4).textContent();
  await cell(page, 0, 4).click();
  await paste(page, 'Hollin first pasted\nHollin second pasted\n"Hollin third\tpasted"');
  await cell(page, 0, 2).click();
  await paste(page, '2104000006019');
  await expect(cell(page, 2, 4)).toHaveText('Hollin third\tpasted');
  await expect(cell(page, 0, 2)).toHaveAttribute('aria-invalid', 'true');
  await expect(unsaved(page)).toContainText('4 cells in 3 products');
  await unsaved(page).getByRole('button', { name: 'Review, cell by cell' }).click();
  const review = page.getByLabel('Review', { exact: true });
  await expect(review.getByRole('row')).toHaveCount(5);
  await review.getByRole('button', { name: 'Put them back' }).click();
  await unsaved(page).getByRole('button', { name: 'Save 3' }).click();
  await expect(page.getByText(/3 cells saved/)).toBeVisible();
  await expect(unsaved(page)).toHaveCount(0);
  await expect(cell(page, 0, 4)).toHaveText('Hollin first pasted');
  await page.reload();
  await expect(grid(page).getByText('Hollin first pasted')).toHaveCount(1);
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await idle(page);
  await page.reload();
  await expect(cell(page, 0, 4)).toHaveText(before ?? '');
});

test('keys do what they do in a spreadsheet: go, write, choose, fill, copy, empty, take back', async ({ page }) => {
  await open(page);
  await cell(page, 0, 3).click();
  await page.keyboard.type('raffia');
  await page.keyboard.press('Enter');
  await expect(cell(page, 0, 3)).toHaveText('raffia');
  await expect(cell(page, 1, 3)).toHaveClass(/active/);
  await page.keyboard.press('ArrowUp');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('4 cells chosen')).toBeVisible();
  await page.keyboard.press('Control+d');
  await expect(cell(page, 3, 3)).toHaveText('raffia');
  expect(await copy(page)).toBe('raffia\nraffia\nraffia\nraffia');
  await page.keyboard.press('Delete');
  await expect(cell(page, 3, 3)).not.toHaveText('raffia');
  await page.keyboard.press('Control+z');
  await expect(cell(page, 3, 3)).toHaveText('raffia');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(unsaved(page)).toHaveCount(0);
  await page.keyboard.press('Control+y');
  await expect(unsaved(page)).toContainText('1 cell in 1 product');
  // Written in, and left as it was.
  await page.keyboard.press('F2');
  await page.keyboard.type(' and more');
  await page.keyboard.press('Escape');
  await expect(cell(page, 0, 3)).toHaveText('raffia');
  await page.getByRole('link', { name: 'Today' }).click();
  await expect(page.getByText('1 cell is not saved. Leaving this page loses it.')).toBeVisible();
  await page.getByRole('button', { name: 'Stay' }).click();
  await expect(cell(page, 0, 3)).toHaveText('raffia');
});

test('the corner of what is chosen is dragged down, and only what blocks is shown', async ({ page }) => {
  await open(page);
  await cell(page, 0, 3).click();
  await page.keyboard.type('jute');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await cell(page, 0, 3).locator('[data-corner]').hover();
  await page.mouse.down();
  await cell(page, 2, 3).hover();
  await cell(page, 3, 3).hover();
  await page.mouse.up();
  await expect(cell(page, 3, 3)).toHaveText('jute');
  await expect(unsaved(page)).toContainText('4 cells in 4 products');
  await page.keyboard.press('Control+z');
  await expect(unsaved(page)).toContainText('1 cell in 1 product');
  await page.keyboard.press('Control+z');
  await expect(unsaved(page)).toHaveCount(0);
  const all = await page.getByRole('grid').getAttribute('aria-rowcount');
  await page.getByRole('button', { name: 'Only what blocks' }).click();
  await expect(page.getByRole('button', { name: 'Only what blocks' })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('grid')).not.toHaveAttribute('aria-rowcount', all ?? '');
});

test('texts and patterns are found and replaced, and cells cleaned up', async ({ page }) => {
  await open(page);
  await cell(page, 0, 4).click();
  await paste(page, '  LOUD   pot 12cm\n  LOUD   pot 14cm');
  await page.keyboard.press('Control+f');
  const find = page.getByRole('search', { name: 'Find and replace' });
  await find.getByRole('checkbox', { name: 'Pattern' }).check();
  await find.getByLabel('Find', { exact: true }).fill('(\\d+)cm');
  await expect(find.getByText('2 cells of those chosen')).toBeVisible();
  await find.getByLabel('Replace by').fill('$1 cm');
  await find.getByRole('button', { name: 'Replace all' }).click();
  await expect(cell(page, 1, 4)).toHaveText('  LOUD   pot 14 cm', { useInnerText: false });
  await page.getByRole('button', { name: 'Clean up' }).click();
  await page.getByRole('menuitem', { name: /^Spaces/ }).click();
  await page.getByRole('button', { name: 'Clean up' }).click();
  await page.getByRole('menuitem', { name: /none shouting/ }).click();
  await expect(cell(page, 0, 4)).toHaveText('Loud pot 12 cm');
  await expect(unsaved(page)).toContainText('2 cells in 2 products');
});

test('of two people at one cell the second sees both values, and nothing is lost', async ({ page }) => {
  await open(page);
  const sku = (await cell(page, 1, 1).textContent()) ?? '';
  await cell(page, 1, 3).click();
  await page.keyboard.type('mine');
  await page.keyboard.press('Enter');
  const [{ id }] = (await read(page, `/api/search?q=${encodeURIComponent(sku)}&only=ordered`)).items;
  const held = (await read(page, `/api/products/${id}`)).values.find(
    ({ attribute }: { attribute: string }) => attribute === 'material',
  );
  await page.request.patch(`/api/products/${id}`, {
    data: { edits: [{ attribute: 'material', text: 'theirs', madeAgainst: held.text }] },
  });
  await unsaved(page).getByRole('button', { name: 'Save 1' }).click();
  const review = page.getByLabel('Review', { exact: true });
  await expect(review.getByRole('alert')).toContainText('Nothing was saved. 1 cell was changed by somebody');
  await expect(review.getByRole('row').filter({ hasText: 'theirs' })).toContainText('mine');
  await expect(unsaved(page).getByRole('button', { name: 'Save 1' })).toBeDisabled();
  await review.getByRole('button', { name: 'Write mine over them' }).click();
  await unsaved(page).getByRole('button', { name: 'Save 1' }).click();
  await expect(page.getByText(/1 cell saved/)).toBeVisible();
  await expect(cell(page, 1, 3)).toHaveText('mine');
});

test('a value is pinned for listings in a channel’s column, and follows its fill again', async ({ page }) => {
  const { items } = await read(page, '/api/sheet/columns');
  const words = items.find(({ pin, label }: { pin?: object; label: string }) => pin && label === 'Short wording');
  const columns = JSON.stringify(['title@en-GB', words.slot]);
  await page.goto(`/catalog/sheet?search=hollin&all=yes&columns=${encodeURIComponent(columns)}`);
  await expect(page.getByRole('columnheader', { name: `Short wording, ${words.pin.place}` })).toBeVisible();
  await expect(cell(page, 1, 3)).toHaveClass(/leaning/);
  const followed = (await cell(page, 1, 3).textContent()) ?? '';
  await cell(page, 0, 3).click();
  await paste(page, 'A pot with words of its own\nAnother with words of its own');
  await unsaved(page).getByRole('button', { name: 'Save 2' }).click();
  await expect(page.getByText(/2 cells saved/)).toBeVisible();
  await expect(cell(page, 1, 3)).toHaveClass(/pinned/);
  await cell(page, 1, 3).click();
  await page.keyboard.press('Delete');
  await expect(cell(page, 1, 3)).toHaveText('follows its fill');
  await unsaved(page).getByRole('button', { name: 'Save 1' }).click();
  await expect(page.getByText(/1 cell saved/)).toBeVisible();
  await expect(cell(page, 1, 3)).toHaveText(followed);
  await expect(cell(page, 0, 3)).toHaveText('A pot with words of its own');
});

test('axe finds nothing wrong on the sheet', async ({ page }) =>
  expect(await faultsOn(page, '/catalog/sheet')).toEqual([]));
