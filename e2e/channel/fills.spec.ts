/** Fills in the real interface: the parts of their goods, rules one after another, and fills kept in a file and read again. */
import { bringIn, expect, idle, test, undoAtTheFoot } from '../hands.js';

test.describe.configure({ mode: 'serial' });

const figure = (text: string | null) => Number(/(\d+)/.exec(text ?? '')?.[1]);

test('a fill is one bar of parts, each opens its goods, and a rule more fills what is empty', async ({ page }) => {
  await bringIn(page, 'mosswick-own.tsv');
  await idle(page);
  await page.goto('/places/1/fills?attribute=maker');
  const bar = page.getByRole('group', { name: 'Goods by what fills them' });
  const rules = page.getByRole('group', { name: 'Rules' });
  await expect(bar.getByRole('button').first()).toHaveText(/^1 · copies Brand \d+$/);
  await page.getByLabel('From', { exact: true }).click();
  await page.getByRole('option', { name: 'Material', exact: true }).click();
  await expect(bar.getByRole('button').first()).toHaveText(/^1 · copies Material \d+$/);
  const empty = bar.getByRole('button', { name: /empty$/ });
  await expect(empty).toBeVisible();
  const missing = figure(await empty.textContent());
  await empty.click();
  await expect(empty).toHaveAttribute('aria-pressed', 'true');
  const goods = page.getByRole('table', { name: `Goods of: ${missing} empty` });
  await expect(goods.getByRole('cell', { name: 'Material is empty' }).first()).toBeVisible();
  await expect(goods.getByRole('cell', { name: 'nothing', exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Another rule where this gives nothing' }).click();
  await rules.getByLabel('Filled by').click();
  await page.getByRole('option', { name: 'One fixed value' }).click();
  await rules.getByLabel('Value', { exact: true }).fill('Unnamed maker');
  await expect(bar.getByRole('button', { name: `2 · fixed: Unnamed maker ${missing}` })).toBeVisible();
  await expect(empty).toHaveCount(0);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/^Saved; \d+ listings? re-checked/)).toBeVisible();
  await expect(page.getByText('As it is now.')).toBeVisible();
  await expect(rules.getByLabel('Value', { exact: true })).toHaveValue('Unnamed maker');
  await page.getByRole('button', { name: 'Remove rule 2' }).click();
  await expect(empty).toBeVisible();
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Changed how Maker is filled/)).toBeVisible();
});

test('fills are counted in one category, and the address keeps it', async ({ page }) => {
  await page.goto('/places/1/fills?attribute=short');
  await page.getByLabel('Counted in').click();
  const option = page.getByRole('option').first();
  const goods = figure(((await option.textContent()) ?? '').replace(/[^\d]+/g, ''));
  await option.click();
  await expect(page.getByText(`${goods} listings, each by the first rule`)).toBeVisible();
  await page.reload();
  await expect(page.getByText(`${goods} listings, each by the first rule`)).toBeVisible();
});

test('fills are kept in a file, and what is gone is taken from it again', async ({ page }) => {
  await page.goto('/places/1/fills');
  await page.getByRole('button', { name: 'Copy from elsewhere' }).click();
  const coming = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Keep the fills of this place in a file' }).click();
  const path = await (await coming).path();
  await page.goto('/places/1/fills?attribute=maker');
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: 'One fixed value' }).click();
  await page.getByLabel('Value', { exact: true }).fill('Somebody else');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/^Saved/)).toBeVisible();
  await page.goto('/places/1/fills?carry=file');
  await page.locator('input[type=file]').setInputFiles(path);
  const table = page.getByRole('table', { name: /^Fills of / });
  const row = table.getByRole('row').filter({ hasText: 'Maker' });
  await expect(row).toContainText('fixed: Somebody else');
  await expect(row).toContainText('copies Brand');
  await expect(page.getByText('Nothing is taken')).toBeVisible();
  await row.getByRole('checkbox').check();
  await expect(page.getByRole('status').filter({ hasText: /become/ })).toBeVisible();
  await page.getByRole('button', { name: 'Take 1 fill' }).click();
  await expect(page.getByText(/^Copied 1 fill from /)).toBeVisible();
  await page.goto('/places/1/fills?attribute=maker');
  await expect(page.getByRole('group', { name: 'Goods by what fills them' }).getByRole('button').first()).toHaveText(
    /copies Brand/,
  );
});

test('a field that nothing of ours says is kept as an attribute of ours, and copied from there', async ({ page }) => {
  await page.goto('/places/1/fills');
  await page.getByRole('row').filter({ hasText: 'filled by nothing' }).first().click();
  const name = (await page.getByRole('heading', { level: 2 }).first().textContent()) ?? '';
  await page.getByRole('button', { name: 'Keep it as an attribute of ours' }).click();
  await expect(page.getByText(`${name} is an attribute of ours now, and feeds the channel`)).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: `copies ${name}` })).toBeVisible();
  await expect(page.getByText('As it is now.')).toBeVisible();
  await undoAtTheFoot(page, `Changed how ${name} is filled`);
});
