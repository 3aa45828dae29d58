/** The life of one supplier, in the real interface: columns taught once, refused rows, lists that lack goods, files of thousands. */
import { readFileSync } from 'node:fs';
import { type Page, applied, drop, dropOnly, expect, idle, picked, test, tryIt } from '../hands.js';

const supplier = 'Thornback Timber';
const header = 'Our no.;Name;Range;Size;Heavy;Wood;Finish;Net price\n';
const goods = [
  'TT-1;Bench, low;Bench;80 x 30 cm;12,5;oak;oiled;49,00\n',
  'TT-2;=Bench, high;Bench;80 x 45 cm;14;oak;raw;55,00\n',
  'TT-3;Stool;Stool;30 x 30 cm;4,25;ash;oiled;19,00\n',
];

async function choose(page: Page, label: string, option: string): Promise<void> {
  const box = page.getByLabel(label, { exact: true });
  // What was chosen before is being kept: until it is, the list closes by itself.
  await expect(async () => {
    if ((await box.inputValue()) === option) return;
    await box.fill(option, { timeout: 5_000 });
    await page.getByRole('option', { name: option, exact: true }).click({ timeout: 5_000 });
  }).toPass();
}

test('a supplier is added, and a file of theirs is given to them', async ({ page }) => {
  await dropOnly(page, 'timber.csv', header + goods.join(''));
  // Nothing in it says whose it is: it is nobody's, and nothing can come of it yet.
  await expect(page.getByText(/Intake · nobody’s yet/)).toBeVisible();
  await expect(page.getByText(/Nothing says whose goods these are/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Try it/ })).toBeDisabled();
  await picked(page, 'Supplier').click();
  await page.getByRole('option', { name: 'A new supplier…' }).click();
  await page.getByLabel('Name of the supplier').fill(supplier);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText(new RegExp(`Intake · ${supplier}`))).toBeVisible();
});

test('one column feeds two attributes, two feed one, and a bare figure gets its unit', async ({ page }) => {
  await page.goto('/intake');
  await page.getByRole('link', { name: 'timber.csv' }).click();
  const row = (column: string) => page.getByRole('row').filter({ has: page.getByText(column, { exact: true }) });
  await choose(page, 'What Our no. becomes', 'Article number');
  await choose(page, 'What Name becomes', 'Title, en-GB');
  await choose(page, 'What Range becomes', 'Family');
  await choose(page, 'What Size becomes', 'Length');
  await row('Size').getByRole('button', { name: 'how it is read' }).click();
  await page.getByLabel('Part of the cell').fill('1');
  await page.getByLabel('Part of the cell').press('Enter');
  await expect(row('Size').getByText('→ 80 cm').first()).toBeVisible();
  await row('Size').getByRole('button', { name: '+ feeds something else too' }).click();
  await choose(page, 'What Size becomes too', 'Height');
  await row('Size').getByRole('button', { name: 'how it is read' }).last().click();
  await page.getByLabel('Part of the cell').last().fill('2');
  await page.getByLabel('Part of the cell').last().press('Enter');
  await expect(row('Size').getByText('→ 45 cm').first()).toBeVisible();
  await choose(page, 'What Heavy becomes', 'Weight');
  await row('Heavy').getByRole('button', { name: 'how it is read' }).click();
  await page.getByLabel('Bare figures are in').last().fill('kg');
  await page.getByLabel('Bare figures are in').last().press('Enter');
  await expect(row('Heavy').getByText('→ 12.5 kg').first()).toBeVisible();
  await choose(page, 'What Wood becomes', 'Material');
  await choose(page, 'What Finish becomes', 'Material');
  await row('Finish').getByRole('button', { name: 'how it is read' }).click();
  await page.getByLabel('Put together with').last().fill(', ');
  await page.getByLabel('Put together with').last().press('Enter');
  await page.getByRole('tab', { name: 'First rows' }).click();
  await expect(page.getByRole('cell', { name: 'oak, oiled' }).first()).toBeVisible();
  await expect(page.getByRole('cell', { name: '30 cm' }).first()).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('3 would be created')).toBeVisible();
  await page.getByRole('button', { name: 'Apply 3 rows' }).click();
  await applied(page);
});

test('the next file of this supplier needs no click, and refused rows come back mended', async ({ page }) => {
  await drop(
    page,
    'timber-2.csv',
    `${header}${goods.join('')}TT-4;Shelf;Shelf;90 x 20 cm;6;ash;oiled;23,00\n;No number;Shelf;90 x 20 cm;6;ash;oiled;23,00\nTT-4;Twice;Shelf;90 x 20 cm;6;ash;oiled;23,00\n`,
  );
  await expect(page.getByText(new RegExp(`Intake · ${supplier}`))).toBeVisible();
  await tryIt(page);
  await expect(page.getByText('1 would be created · 0 would be changed · 3 unchanged · 2 refused')).toBeVisible();
  await page.getByText('refused 2', { exact: true }).click();
  await expect(page.getByText('stands on an earlier row of this file; the first one counts')).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download refused rows' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toContain('without an article number');
  await page.getByRole('button', { name: 'Apply 1 row' }).click();
  await applied(page);
  expect(text).toContain(',,No number');
  await drop(page, 'timber-mended.csv', text.replace(',,No number', ',TT-5,No number'));
  await expect(page.getByText(new RegExp(`Intake · ${supplier}`))).toBeVisible();
  await tryIt(page);
  await expect(page.getByText(/1 would be created/)).toBeVisible();
});

test('cells that begin with = stay text, in the grid and in its export', async ({ page }) => {
  await page.goto('/catalog?search=Bench&show=variants&all=yes');
  await expect(page.getByRole('row').filter({ hasText: 'Bench, high' }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Export' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'What is shown, as CSV' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toContain('=Bench, high');
  expect(text).not.toMatch(/(^|,)"?=/m);
  await drop(page, 'benches.csv', text);
  await tryIt(page);
  await expect(page.getByText('0 would be changed')).toBeVisible();
});

test('goods a whole list no longer has are marked, and an unchanged list that has them again unmarks them', async ({
  page,
}) => {
  const trusted = page.getByRole('table').filter({ hasText: 'In order of trust' });
  const dropped = trusted.getByRole('row').filter({ hasText: supplier }).getByRole('cell').nth(2);
  await drop(page, 'timber-3.csv', header + goods.slice(0, 2).join(''));
  await tryIt(page);
  await expect(page.getByText('2 no longer in the list')).toBeVisible();
  await page.getByRole('button', { name: 'Confirm 2 unchanged rows' }).click();
  await applied(page);
  await page.goto('/intake');
  await expect(dropped).toHaveText('2');
  await dropped.getByRole('link').click();
  await expect(page.getByRole('row').filter({ hasText: 'Stool' }).first()).toBeVisible();
  await drop(page, 'timber-4.csv', header + goods.join(''));
  await tryIt(page);
  await page.getByRole('button', { name: 'Confirm 3 unchanged rows' }).click();
  await applied(page);
  await page.goto('/intake');
  await expect(dropped).toHaveText('1');
});

test('a batch is undone where it was applied, and what a person set since is named and stays', async ({ page }) => {
  await drop(page, 'timber-5.csv', header + goods.map((text) => text.replace('oiled', 'waxed')).join(''));
  await tryIt(page);
  await page.getByRole('button', { name: 'Apply 2 rows' }).click();
  await applied(page);
  await page.goto('/catalog?search=Stool&show=variants&all=yes');
  await page.getByRole('row').filter({ hasText: 'Stool' }).last().getByText('Stool').first().click();
  await expect(page.getByText('ash, waxed').first()).toBeVisible();
  await page.goto('/intake');
  await page.getByRole('link', { name: 'timber-5.csv' }).click();
  await page.getByRole('button', { name: 'Undo this batch' }).click();
  await expect(page.getByText('This batch was applied and undone.')).toBeVisible();
  await page.goto('/catalog?search=Stool&show=variants&all=yes');
  await page.getByRole('row').filter({ hasText: 'Stool' }).last().getByText('Stool').first().click();
  await expect(page.getByText('ash, oiled').first()).toBeVisible();
});

test('a file of thousands is applied beside the work; cancelled, nothing of it is left', async ({ page }) => {
  const many = Array.from({ length: 20_000 }, (_, i) => `TX-${i};Trunnel ${i};;3 x 1 cm;0,01;ash;oiled;0,10\n`);
  await drop(page, 'timber-trunnels.csv', header + many.join(''));
  await tryIt(page);
  await expect(page.getByText(/20,000 would be created/)).toBeVisible();
  await page.getByRole('button', { name: 'Apply 20,000 rows' }).click();
  // As soon as it can be: what is done already cannot be cancelled.
  await page.getByRole('button', { name: 'Cancel and undo what was applied' }).click();
  await expect(page.getByText('Applying was cancelled, and what had been applied was taken back.')).toBeVisible();
  await page.goto('/catalog?search=Trunnel&show=variants&all=yes');
  await expect(page.getByText(/^0 variants/)).toBeVisible();
});

test('identifiers that stand on two articles of one list join nothing, and lead to the goods', async ({ page }) => {
  await drop(
    page,
    'timber-keys.csv',
    `Our no.;Name;EAN\nTT-90;Rack, left;4006381333931\nTT-91;Rack, right;4006381333931\n`,
  );
  await tryIt(page);
  await page.getByRole('button', { name: 'Apply 2 rows' }).click();
  await applied(page);
  await page.goto('/matching?tab=keys');
  const row = page.getByRole('row').filter({ hasText: '4006381333931' });
  await expect(row).toContainText('TT-90');
  await expect(row).toContainText('TT-91');
  await row.getByRole('link', { name: 'Rack, right' }).click();
  await expect(page).toHaveURL(/attribute=gtin/);
  await expect(page.getByText('Rack, right').first()).toBeVisible();
});

test('pairs above a score are joined in bulk, and the look-through can be asked for', async ({ page }) => {
  const lists = { 'Larchwell Ltd': 'LW', 'Mireside Ltd': 'MS' };
  for (const [name, letters] of Object.entries(lists)) {
    await page.request.post('/api/suppliers', { data: { name } });
    const rows = ['small', 'large', 'round', 'square'].map(
      (kind, i) =>
        `${letters}-${i};Larch birdhouse ${kind} with copper roof;Larchwell;${i + 2}00 g;1${i} cm;2${i} cm;3${i} cm\n`,
    );
    await drop(page, `${letters}.csv`, `Article;Title;Brand;Weight;Diameter;Height;Length\n${rows.join('')}`);
    await picked(page, 'Supplier').click();
    await page.getByRole('option', { name }).click();
    await tryIt(page);
    await page.getByRole('button', { name: 'Apply 4 rows' }).click();
    await applied(page);
  }
  await page.goto('/matching');
  await page.getByRole('button', { name: 'Look again' }).click();
  await idle(page);
  await page.getByLabel('Find goods').fill('birdhouse');
  await expect(page.getByLabel('Pairs').getByRole('listitem').first()).toContainText('birdhouse');
  await page
    .getByRole('button', { name: /^Join all \d+ from \d+/ })
    .last()
    .click();
  await expect(page.getByText(/\d+ pairs? joined/)).toBeVisible();
  await page.goto('/matching?tab=joined');
  await page.getByLabel('Find goods').fill('birdhouse');
  await expect(page.getByRole('button', { name: /birdhouse.*Larchwell/ }).first()).toBeVisible();
});

test('suppliers are pasted as a list, with what is wrong told beside each line', async ({ page }) => {
  await page.goto('/company?tab=suppliers');
  await page.getByRole('button', { name: 'Paste several' }).click();
  await page
    .getByLabel('Suppliers, one a line')
    .fill('Vinterhus AB; Swedish; sek\nOakhollow Textiles\noakhollow textiles\nFarbwerk; de-AT; Taler');
  const table = page.getByRole('table', { name: 'What will be made' });
  await expect(table.getByRole('row').filter({ hasText: 'Vinterhus' })).toContainText('SEK');
  await expect(table.getByText('stands there twice')).toBeVisible();
  await expect(table.getByText('“Taler” is no currency')).toBeVisible();
  await page.getByRole('button', { name: 'Make 2 suppliers' }).click();
  await expect(page.getByRole('table', { name: 'Suppliers' }).getByText('Oakhollow Textiles')).toBeVisible();
});
