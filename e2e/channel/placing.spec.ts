/** A channel is asked where it would put goods, beside what we suggest, and what it says is taken; it is the one that connect.spec adds. */
import { expect, read, test } from '../hands.js';

test.describe.configure({ mode: 'serial' });

test('the channel says where it would put goods of a category; its answer is taken and undone', async ({ page }) => {
  const { items } = await read(page, '/api/channels');
  const quernby = items.find((channel: { key: string }) => channel.key === 'quernby');
  const send = async (path: string, data: object) => {
    const answer = await page.request.post(path, { data });
    expect(answer.status(), await answer.text()).toBe(200);
    return answer.json();
  };
  await page.goto(`/channels?account=${quernby.accounts[0].id}`);
  await page.getByRole('button', { name: 'Go to Quernby and agree' }).click();
  await page.getByRole('button', { name: 'Let it', exact: true }).click();
  await expect(page.getByText('waiting for the channel').first()).toBeVisible();
  const place = await send(`/api/channels/${quernby.id}/places`, { market: 'GB', name: 'Quernby' });
  await send('/api/products', {
    shared: [
      { attribute: 'title', text: 'Hanging pot of stoneware' },
      { attribute: 'category', text: 'Planters/Indoor pots' },
    ],
    axes: [],
    variants: [{ sku: 'WH-1', options: [], price: '5', stock: '1' }],
  });
  const [making] = (await read(page, '/api/actions')).items;
  await page.goto(`/places/${place.id}/categories`);
  await page
    .getByRole('table', { name: 'Category map' })
    .getByRole('button', { name: /Indoor pots$/ })
    .click();
  const panel = page.getByRole('region', { name: /Indoor pots$/ });
  await panel.getByRole('button', { name: 'Ask the channel' }).click();
  await expect(panel.getByText('where the channel itself would put them').first()).toBeVisible();
  await panel
    .getByRole('button', { name: /^Put it in .*Hanging pots$/ })
    .last()
    .click();
  await expect(panel.getByText(/^stands in /)).toContainText('Hanging pots');
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(panel.getByText('It stands nowhere in the channel’s tree yet')).toBeVisible();
  // Tests after this one find what there was before.
  await send(`/api/actions/${making.id}/undo`, {});
  expect((await page.request.delete(`/api/places/${place.id}`)).status()).toBe(200);
  await send(`/api/accounts/${quernby.accounts[0].id}/let-go`, {});
});
