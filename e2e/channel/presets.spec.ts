/** Presets in the real interface: made by a condition, tried, kept, and a fill said otherwise for their goods. */
import { expect, idle, test } from '../hands.js';

test('a preset is made, tried, kept and filled, and its goods are told', async ({ page }) => {
  await idle(page);
  await page.goto('/places/1/presets');
  await expect(page.getByText('No presets yet')).toBeVisible();
  await page.getByRole('button', { name: 'Another preset' }).click();
  await page.getByLabel('Name of the preset').fill('Goods of Hobnettle');
  await page.getByLabel('Goods that meet a condition').check();
  const condition = page.getByRole('group', { name: 'Condition of the preset' });
  await condition.getByRole('button', { name: '+ Condition' }).click();
  await condition.getByLabel('Attribute').click();
  await page.getByRole('option', { name: 'Brand', exact: true }).click();
  await condition.getByLabel('Value').fill('Hobnettle');
  await expect(page.getByRole('status').filter({ hasText: 'no listing becomes' })).toBeVisible();
  await page.getByRole('button', { name: 'Keep them' }).click();
  await expect(page.getByText(/^Kept/)).toBeVisible();
  const card = page.getByRole('list', { name: 'Presets' }).getByRole('listitem');
  await expect(card).toContainText('Goods of Hobnettle');
  const goods = Number(/(\d+)$/.exec((await card.textContent()) ?? '')?.[1]);
  expect(goods).toBeGreaterThan(0);
  await page.getByLabel('An attribute it fills otherwise').click();
  await page.getByRole('option', { name: 'Maker', exact: true }).click();
  await page.getByRole('link', { name: 'Say how' }).click();
  await expect(page.getByRole('button', { name: /^Goods of Hobnettle/, pressed: true })).toBeVisible();
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: 'One fixed value' }).click();
  await page.getByLabel('Value', { exact: true }).fill('Hobnettle Pottery');
  const bar = page.getByRole('group', { name: 'Goods by what fills them' });
  await expect(
    bar.getByRole('button', { name: `fixed: Hobnettle Pottery, Goods of Hobnettle ${goods}` }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/^Saved/)).toBeVisible();
  await page.goto('/listings?place=1&readiness=ready');
  await page.getByRole('checkbox', { name: 'Choose all that match' }).check();
  const many = page.getByRole('region', { name: 'Preset of all that are chosen' });
  await many.getByLabel('Preset').click();
  await page.getByRole('option', { name: 'Goods of Hobnettle' }).click();
  await expect(many.getByRole('status')).toHaveText(/^\d+ listings would be put in, /);
  await many.getByRole('button', { name: 'Keep out of it' }).click();
  await expect(page.getByText(/^\d+ listings kept out; /)).toBeVisible();
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Kept \d+ goods out of/)).toBeVisible();
  await page.goto('/places/1/presets');
  await expect(page.getByRole('link', { name: 'Maker', exact: true })).toBeVisible();
  await expect(card).toContainText('1 fill');
  await page.getByRole('button', { name: 'Take it away' }).click();
  await page.getByRole('button', { name: 'Keep them' }).click();
  await expect(page.getByText(/^Kept/)).toBeVisible();
  await expect(page.getByText('No presets yet')).toBeVisible();
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(card).toContainText('1 fill');
});
