/** An account on a channel in the real interface: joined on the channel’s own page, seen with what is missing and kept there, let go. */
import { type Page, expect, faultsOn, read, test } from '../hands.js';

test.describe.configure({ mode: 'serial' });

const panel = (page: Page) => page.getByLabel('Account', { exact: true });

/** Adds a channel that ships, and says where its simulated service stands. */
async function add(page: Page, name: string, key: string): Promise<void> {
  await page.goto('/channels?make=yes');
  await page.getByRole('tab', { name: 'One that ships' }).click();
  await page.getByRole('button', { name: `Begin with ${name}` }).click();
  const section = page.getByRole('region', { name });
  await section.getByRole('button', { name: /^Change the account/ }).click();
  const { items } = await read(page, '/api/channels');
  const [{ address }] = items.find((channel: { key: string }) => channel.key === 'orrivane').accounts;
  await section.getByLabel('Address of the channel’s own service').fill(address.replace('orrivane', key));
  await section.getByRole('button', { name: 'Keep' }).click();
  await section.getByRole('button', { name: /^Open the account/ }).click();
}

test('an account is joined where the channel asks for consent, refused first, and let go', async ({ page }) => {
  await add(page, 'Quernby', 'quernby');
  await expect(panel(page)).toContainText('Where it would put goods, when you ask');
  await expect(panel(page).getByText('Choose the region first')).toBeVisible();
  await panel(page).getByLabel('Region').click();
  await page.getByRole('option', { name: 'The isles' }).click();
  await expect(panel(page).getByRole('button', { name: 'Sell in Germany' })).toHaveCount(0);
  await panel(page).getByRole('button', { name: 'Go to Quernby and agree' }).click();
  await expect(page.getByRole('heading', { name: 'Quernby', exact: true })).toBeVisible();
  await expect(page.getByText('in The isles')).toBeVisible();
  await page.getByRole('button', { name: 'Do not let it' }).click();
  await expect(page.getByText('You did not let it: nothing was changed.')).toBeVisible();
  await page.getByRole('link', { name: 'Back to the channels' }).click();
  await page
    .getByRole('region', { name: 'Quernby' })
    .getByRole('button', { name: /^Open the account/ })
    .click();
  await panel(page).getByRole('button', { name: 'Go to Quernby and agree' }).click();
  await page.getByRole('button', { name: 'Let it', exact: true }).click();
  await expect(panel(page).getByText('waiting for the channel')).toBeVisible();
  await expect(panel(page).getByText('Payment details: where your earnings are to go')).toBeVisible();
  await expect(panel(page).getByRole('row').filter({ hasText: 'Small parcel, two days' })).toContainText('Parcel plan');
  await panel(page).getByRole('button', { name: 'Ask again' }).click();
  await expect(page.getByText('Asked', { exact: true })).toBeVisible();
  await panel(page).getByRole('button', { name: 'Disconnect' }).click();
  await expect(panel(page).getByRole('alert')).toContainText('Nothing of yours is live on Quernby');
  await panel(page).getByRole('alert').getByRole('button', { name: 'Disconnect' }).click();
  await expect(panel(page).getByText('not connected')).toBeVisible();
});

test('a further account sells in another region', async ({ page }) => {
  await page.goto('/channels');
  const section = page.getByRole('region', { name: 'Quernby' });
  await section.getByRole('button', { name: '+ Account' }).click();
  await section.getByLabel('Name of the account').fill('Quernby on the mainland');
  await expect(section.getByLabel('Region')).toHaveText('The mainland');
  await section.getByRole('button', { name: 'Make the account' }).click();
  await section.getByRole('button', { name: 'Open the account Quernby on the mainland' }).click();
  await panel(page).getByRole('button', { name: 'Sell in Germany' }).click();
  await expect(panel(page).getByRole('link', { name: 'which goods' })).toBeVisible();
  await expect(section.getByRole('link', { name: 'Quernby Quernby on the mainland, Germany' })).toBeVisible();
  await expect(section.getByText('Every market of The mainland has its place')).toBeVisible();
  // Without a place, and not connected, it can go again.
  for (const gone of ['Quernby Quernby on the mainland, Germany', 'the account Quernby on the mainland']) {
    await section.getByRole('button', { name: `Remove ${gone}` }).click();
    await section
      .getByRole('status')
      .getByRole('button', { name: `Remove ${gone}` })
      .click();
    await expect(page.getByText(`${gone} is gone`)).toBeVisible();
  }
  await expect(section.getByText('Account Quernby on the mainland')).toHaveCount(0);
});

test('a wrong secret is told, a right one joins', async ({ page }) => {
  await add(page, 'Skarvelund Torg', 'skarvelund');
  await panel(page).getByLabel('Id of the account').fill('mosswick-04417');
  await panel(page).getByLabel('Its secret').fill('guessed');
  await panel(page).getByRole('button', { name: 'Connect' }).click();
  await expect(panel(page).getByText(/does not know what was given.*Nothing was changed/)).toBeVisible();
  await panel(page).getByLabel('Its secret').fill('lingon-och-ljung');
  await panel(page).getByRole('button', { name: 'Connect' }).click();
  await expect(panel(page).getByText('connected', { exact: true })).toBeVisible();
});

test('axe finds nothing wrong with an account', async ({ page }) => {
  const { items } = await read(page, '/api/channels');
  const { id } = items.find((channel: { key: string }) => channel.key === 'quernby').accounts[0];
  expect(await faultsOn(page, `/channels?account=${id}`)).toEqual([]);
});
