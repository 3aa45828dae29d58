/** Causes mended where they stand, whatever they are of: a picture brought in, a value that a hand set. */
import sharp from 'sharp';
import { expect, faultsOn, idle, read, test } from '../hands.js';

test.describe.configure({ mode: 'serial' });

/** A picture of so many pixels each way. */
const picture = async (name: string, pixels: number) => ({
  ...{ name, mimeType: 'image/jpeg' },
  buffer: await sharp({ create: { width: pixels, height: pixels, channels: 3, background: '#fff' } })
    .jpeg()
    .toBuffer(),
});

test('a picture that is too small is another by a file with the SKU in its name, or by one for the row', async ({
  page,
}) => {
  await page.goto('/causes?cause=catalog:pictures:picture-size');
  const cells = page.getByRole('textbox', { name: /^Pictures of MS-/ });
  await expect(cells.first()).toBeVisible();
  const [first = '', second = ''] = await cells.evaluateAll((list) =>
    list.map((each) => each.getAttribute('aria-label')?.replace('Pictures of ', '') ?? ''),
  );
  const cell = (sku: string) => page.getByRole('textbox', { name: `Pictures of ${sku}` });
  await page
    .getByLabel('Files', { exact: true })
    .setInputFiles([await picture(`${first}.jpg`, 1400), await picture('nobody-knows.jpg', 1400)]);
  await expect(cell(first)).toHaveValue(new RegExp(`^${first}.jpg`));
  await expect(page.getByText('1 file could not be told to belong to any goods')).toBeVisible();
  await page.getByLabel(`Picture file for ${second}`).setInputFiles(await picture('second-of-them.jpg', 1400));
  await expect(cell(second)).toHaveValue(/^second-of-them.jpg/);
  await expect(page.getByText('2 cells to save, tried on all listings of these goods.')).toBeVisible();
  await page.getByRole('button', { name: 'Save and go to next' }).click();
  await expect(page.getByText(/^Saved; |became ready/).first()).toBeVisible();
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Set Pictures/)).toBeVisible();
  await idle(page);
});

test('a value set by hand that blocks is let follow its fill again, for all of them at once', async ({ page }) => {
  await page.goto('/');
  const { items } = await read(page, '/api/listings?place=1&readiness=ready&limit=2');
  const headers = { origin: new URL(page.url()).origin };
  for (const { id } of items)
    await page.request.put(`/api/listings/${id}/pins/short`, { headers, data: { text: 'x', madeAgainst: null } });
  await idle(page);
  await page.goto('/causes?cause=pin:orrivane:GB:short');
  await expect(page.getByRole('heading', { name: 'The pinned Short wording does not fit on Orrivane' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: /set by hand on Orrivane.* of MS-/ }).first()).toHaveValue('x');
  await page.getByLabel(/Let all of them follow the fill of short wording again/).check();
  await expect(page.getByRole('status').filter({ hasText: '2 listings become ready' })).toBeVisible();
  expect(await faultsOn(page, '/causes?cause=pin:orrivane:GB:short')).toEqual([]);
  await page.getByLabel(/Let all of them follow the fill of short wording again/).check();
  await page.getByRole('button', { name: 'Save and go to next' }).click();
  await expect(page.getByText(/2 listings became ready/)).toBeVisible();
});
