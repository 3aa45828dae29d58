/** Files that come again and go out again: formats of the same goods, prices and stock, the grid as a workbook, sources fetched by the clock. In this order. */
import { readFileSync } from 'node:fs';
import { type Page, applied, bringIn, drop, expect, picked, read, test, tryIt } from '../hands.js';

const search = (page: Page, words: string) =>
  page.goto(`/catalog?search=${encodeURIComponent(words)}&show=variants&all=yes`);
const rowOf = (page: Page, words: string) => page.getByRole('row').filter({ hasText: words }).first();

test('the same goods as JSON and as XML: the second changes nothing and can be confirmed', async ({ page }) => {
  await bringIn(page, 'kestrelgate-seeds.json');
  await drop(page, 'kestrelgate-seeds.xml');
  await expect(page.getByText('XML', { exact: true })).toBeVisible();
  await expect(page.getByText(/Intake · Kestrelgate Seeds/)).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('0 would be created · 0 would be changed · 118 unchanged · 1 refused')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Confirm 118 unchanged rows' })).toBeEnabled();
});

test('lines of JSON: the broken one is refused by its number, the others go on', async ({ page }) => {
  await drop(
    page,
    'pods.jsonl',
    '{"sku":"PD-1","name":"Pod one"}\n{"sku":"PD-2",\n{"sku":"PD-3","name":"Pod three"}\n',
  );
  await expect(page.getByText('JSON Lines', { exact: true })).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('2 would be created')).toBeVisible();
  await page.getByText('refused 1', { exact: true }).click();
  await expect(rowOf(page, 'line 2')).toBeVisible();
});

test('a page of a shop: its description of the goods is read, whatever stands around it', async ({ page }) => {
  const goods = {
    '@context': 'https://schema.org',
    '@type': 'Product',
    sku: 'PG-1',
    name: 'Page pot',
    gtin13: '2790000010748',
  };
  await drop(
    page,
    'pot.html',
    `<!doctype html><html><head><title>Pot</title><script type="application/ld+json">${JSON.stringify(goods)}</script></head><body><p>Buy this</p></body></html>`,
  );
  await expect(page.getByText('schema.org JSON-LD', { exact: true })).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('1 would be created')).toBeVisible();
  await expect(rowOf(page, 'Page pot')).toContainText('PG-1');
});

test('the separator is corrected, and the columns with it', async ({ page }) => {
  await drop(page, 'cups.txt', 'sku|name;size\nCU-1|Cup;small\nCU-2|Cup;large\n');
  const separator = picked(page, 'Separator');
  await separator.click();
  await page.getByRole('option', { name: 'Semicolon ;' }).click();
  await expect(page.getByText('sku|name', { exact: true }).first()).toBeVisible();
  await separator.click();
  await page.getByRole('option', { name: 'Bar |' }).click();
  await expect(page.getByText('name;size', { exact: true }).first()).toBeVisible();
});

test('identifiers that a spreadsheet has spoilt: zeros come back, lost digits are named', async ({ page }) => {
  await drop(
    page,
    'spoilt.csv',
    'SKU,Name,GTIN\nSP-1,Eight,2345673\nSP-2,Whole,2.655000201032E+12\nSP-3,Lost,2.65500E+12\nSP-4,Typed,2655000201033\n',
  );
  await tryIt(page);
  await expect(rowOf(page, 'SP-1')).toContainText('put back the leading zero');
  await expect(rowOf(page, 'SP-2')).not.toContainText('dropped');
  await expect(rowOf(page, 'SP-3')).toContainText('whose last digits a spreadsheet has dropped');
  await expect(rowOf(page, 'SP-4')).toContainText('wrong check digit');
  await page.getByText('with notes', { exact: true }).click();
  await expect(page.getByRole('row').filter({ hasText: /SP-\d/ })).toHaveCount(3);
});

test('prices and stock by article number: unknown ones are listed, the dry run is searched, and all can be undone', async ({
  page,
}) => {
  await bringIn(page, 'brackwater-pottery.csv');
  await drop(page, 'price-stock-update.csv');
  await expect(picked(page, 'This file is')).toHaveText('news of known goods');
  await tryIt(page);
  await expect(page.getByText('0 would be created · 142 would be changed · 0 unchanged · 9 refused')).toBeVisible();
  await page.getByText('refused 9', { exact: true }).click();
  await expect(page.getByText(/has no article number “[^”]+” that we know/)).toHaveCount(7);
  await page.getByText('changed 142', { exact: true }).click();
  const { items } = await read(
    page,
    `/api/batches/${page.url().match(/intake\/(\d+)/)?.[1] ?? ''}/rows?outcome=changed&limit=1`,
  );
  await page.getByLabel('Find in rows').fill(items[0].key);
  await expect(page.getByRole('row').filter({ hasText: '→' })).toHaveCount(1);
  await page.getByRole('button', { name: 'Apply 142 rows' }).click();
  await applied(page);
  await page.getByRole('button', { name: 'Undo this batch' }).click();
  await expect(page.getByText('This batch was applied and undone.')).toBeVisible();
  await page.getByRole('button', { name: 'Read it again' }).click();
  await tryIt(page);
  await expect(page.getByText('142 would be changed')).toBeVisible();
});

test('the grid goes out as a workbook and comes back unchanged', async ({ page }) => {
  await search(page, 'Basil');
  await expect(rowOf(page, 'Basil')).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'These rows with every attribute, as XLSX' }).click();
  const path = await (await download).path();
  await page.goto('/intake');
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'basil.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: readFileSync(path),
  });
  await expect(page.getByText('Your own grid, brought back')).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('0 would be created · 0 would be changed')).toBeVisible();
});

test('in our own grid an emptied cell clears, and a new row makes goods once that is allowed', async ({ page }) => {
  await search(page, 'Basil');
  await expect(rowOf(page, 'Basil')).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'What is shown, as CSV' }).click();
  const [head = '', first = ''] = readFileSync(await (await download).path(), 'utf8')
    .replace('\uFEFF', '')
    .split('\r\n');
  const names = head.split(',');
  const cells = first.split(',');
  expect(cells.length).toBe(names.length);
  const at = names.indexOf('title@en-GB');
  expect(at).toBeGreaterThan(0);
  cells[at] = '';
  const fresh = names.map((name) => (name === 'sku' ? 'BS-NEW' : name.startsWith('title') ? 'Basil by hand' : ''));
  await drop(page, 'basil.csv', [head, cells.join(','), fresh.join(','), ''].join('\r\n'));
  await tryIt(page);
  await expect(page.getByText('0 would be created · 1 would be changed · 0 unchanged · 1 refused')).toBeVisible();
  await expect(page.getByText(/it would make a new product/)).toBeVisible();
  await page.getByRole('tab', { name: 'Reading and columns' }).click();
  const allowed = page.getByRole('checkbox', { name: 'Make new products of rows without a shelf-id' });
  await allowed.click();
  await expect(allowed).toBeChecked();
  await tryIt(page);
  await expect(page.getByText('1 would be created · 1 would be changed')).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: '→ empty' })).toHaveCount(1);
  await page.getByRole('button', { name: 'Apply 2 rows' }).click();
  await applied(page);
  await search(page, 'BS-NEW');
  await expect(rowOf(page, 'Basil by hand')).toBeVisible();
});

test('a source is fetched by the clock, its hours are changed, and what it answers instead of goods is told', async ({
  page,
}) => {
  const standins = process.env.VELVET_STANDINS ?? '';
  await page.goto('/intake');
  await page.getByRole('button', { name: '+ Source to fetch' }).click();
  await page.getByLabel('Name *').fill('Nobody’s shop');
  await page.getByLabel('Address of its list of goods').fill(`${standins}/nowhere`);
  await page.getByRole('combobox', { name: /^Supplier/ }).click();
  await page.getByRole('option', { name: 'Kestrelgate Seeds' }).click();
  await page.getByRole('combobox', { name: 'When' }).click();
  await page.getByRole('option', { name: 'Mondays at 5 (UTC)' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Mondays at 5 \(UTC\), next /)).toBeVisible();
  await page.getByRole('button', { name: 'change' }).last().click();
  await page.getByRole('combobox', { name: 'When' }).click();
  await page.getByRole('option', { name: 'when asked' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Mondays at 5/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Pull now' }).last().click();
  await expect(page.getByText(/It could not be pulled.*answered 404 at .*nowhere: check the address/)).toBeVisible();
});
