/** One item by its identifier, from the channel's catalogue to its live page: stock, price and a value of its own. After sources.spec. */
import { type Page, expect, faultsOn, read, test } from '../hands.js';

test.describe.configure({ mode: 'serial' });
const sku = 'MS-SEEDTRAY';

async function openProduct(page: Page, tab: string): Promise<void> {
  await page.goto(`/catalog?search=${sku}&show=variants&tab=${tab}`);
  await page.getByRole('row').filter({ hasText: sku }).click();
  await page.getByRole('tab', { name: tab, exact: true }).click();
}

test('the dry run asks for SKU, cost and category, and the item becomes goods', async ({ page }) => {
  await page.goto('/intake');
  await page.getByLabel('Identifier of the item').fill('2790000010373');
  await page.getByRole('button', { name: 'Fetch', exact: true }).click();
  await page.getByRole('button', { name: /^Try it/ }).click();
  await expect(page.getByText('“SKU” is empty')).toBeVisible();
  await expect(page.getByText(/Still to add: SKU, .*Cost GBP/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Nothing to apply' })).toBeDisabled();
  await expect(page.getByText('correct it below, and there is something to apply')).toBeVisible();
  await page.getByRole('button', { name: 'Correct this row' }).click();
  const dialog = page.getByRole('dialog');
  for (const [label, text] of [
    ['SKU', sku],
    ['Cost GBP', '14.00'],
    ['Our category', 'Watering'],
    ['Price GBP', '35.00'],
  ] as const)
    await dialog.getByLabel(label).fill(text);
  await dialog.getByRole('button', { name: 'Save and judge again' }).click();
  await expect(page.getByText('1 would be created')).toBeVisible();
  await page.getByRole('button', { name: 'Apply 1 row' }).click();
  await expect(page.getByRole('tab', { name: 'What it did, row by row' })).toBeVisible();
});

test('40 received and 5 kept back: channels are shown 35, and it can be undone', async ({ page }) => {
  await openProduct(page, 'Stock');
  const drawer = page.getByLabel('Product', { exact: true });
  await drawer.getByLabel('Pieces').fill('4o');
  await expect(drawer.getByText('+40 or −3')).toBeVisible();
  await drawer.getByLabel('Pieces').fill('+40');
  await expect(drawer.getByText('0 → 40 on hand')).toBeVisible();
  await expect(drawer.getByRole('button', { name: 'Book' })).toBeDisabled();
  await drawer.getByLabel('Reason').fill('received');
  await drawer.getByRole('button', { name: 'Book' }).click();
  await expect(drawer.getByText('+40', { exact: true })).toBeVisible();
  await drawer.getByLabel('Kept back').fill('5');
  await drawer.getByRole('button', { name: 'Keep back' }).click();
  await expect(drawer.getByText('40 − 5 kept back')).toBeVisible();
  await expect(page.getByText('Channels are shown 35')).toBeVisible();
  // Pressed at once: it is the keeping back that is undone, never the movement before it.
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(drawer.getByText('40 − 0 kept back')).toBeVisible();
  await drawer.getByLabel('Kept back').fill('5');
  await drawer.getByRole('button', { name: 'Keep back' }).click();
  await expect(drawer.getByText('40 − 5 kept back')).toBeVisible();
});

test('an own price of 29.00 stands beside 35.00 struck through', async ({ page }) => {
  await openProduct(page, 'Facts');
  const drawer = page.getByLabel('Product', { exact: true });
  await drawer.getByRole('button', { name: 'Edit price GBP' }).click();
  await drawer.getByLabel('Sale').fill('cheap');
  await drawer.getByRole('button', { name: 'Save' }).click();
  await expect(drawer.getByText('“cheap” is not a price')).toBeVisible();
  await drawer.getByLabel('Sale').fill('29.00');
  await drawer.getByRole('button', { name: 'Save' }).click();
  await expect(drawer.getByRole('button', { name: 'Edit price GBP' })).toContainText('£29.00 £35.00');
  await expect(drawer.locator('s', { hasText: '£35.00' })).toBeVisible();
});

test('a value is pinned for one listing, sent, and its live page opens', async ({ page }) => {
  const { items: others } = await read(page, '/api/listings?readiness=ready&place=1&limit=1');
  const { values } = await read(page, `/api/listings/${others[0].id}`);
  const image = values.find((value: { label: string }) => value.label === 'First view').value as string;

  await page.goto(`/listings?place=1&search=${sku}`);
  await page.getByRole('button', { name: sku }).click();
  const drawer = page.getByLabel('Listing', { exact: true });
  await drawer.getByRole('button', { name: /^Leaves in/ }).click();
  await expect(drawer.getByText(/40 on hand in .*; 5 kept back/).first()).toBeVisible();
  await drawer.getByRole('button', { name: /^First view/ }).click();
  await drawer.getByRole('button', { name: 'Pin a value for this listing' }).click();
  await drawer.getByLabel('First view for this listing alone').fill(image);
  await drawer.getByRole('button', { name: 'Pin', exact: true }).click();
  await expect(page.getByText('Pinned First view for this listing')).toBeVisible();
  await expect(drawer.getByText('ready', { exact: true })).toBeVisible();

  await page.goto('/feeds');
  const { items: feeds } = await read(page, '/api/feeds');
  if (feeds.length > 0) await page.goto(`/feeds/${feeds[0].id}`);
  else await page.getByRole('button', { name: /New XML feed/ }).click();
  await page.getByRole('button', { name: 'Build now' }).click();
  await page.getByRole('button', { name: 'Ask the channel to fetch it' }).click();
  const state = async () => (await read(page, `/api/listings?place=1&search=${sku}`)).items[0].channelState as string;
  await expect.poll(state).toBe('live');

  await page.goto(`/listings?place=1&search=${sku}`);
  await page.getByRole('button', { name: sku }).click();
  const link = page.getByRole('link', { name: 'Open the live page' });
  await page.goto((await link.getAttribute('href')) ?? '');
  await expect(page.getByRole('heading', { name: 'Seed tray Wefterby' })).toBeVisible();
  await expect(page.locator('main b')).toContainText('29.00');
  await expect(page.locator('main s')).toContainText('35.00');
});

test('unpinned, the listing follows its fill again', async ({ page }) => {
  await page.goto(`/listings?place=1&search=${sku}`);
  await page.getByRole('button', { name: sku }).click();
  const drawer = page.getByLabel('Listing', { exact: true });
  await drawer.getByRole('button', { name: /^First view.*pinned/ }).click();
  await drawer.getByRole('button', { name: 'Unpin' }).click();
  await expect(page.getByText('First view follows its fill again')).toBeVisible();
  await expect(drawer.getByText('No first view given')).toBeVisible();
});

test('axe finds nothing wrong on the stock of a product', async ({ page }) => {
  const { items } = await read(page, `/api/listings?place=1&search=${sku}`);
  expect(await faultsOn(page, `/catalog?search=${sku}&show=variants&open=${items[0].variantId}&tab=stock`)).toEqual([]);
});
