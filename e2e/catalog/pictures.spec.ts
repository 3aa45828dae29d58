/** Pictures in the real interface: dropped by the pile, placed by their names, given, ordered by keys, described. In this order. */
import sharp from 'sharp';
import { type Page, expect, faultsOn, moveByKey, read, test, undoAtTheFoot } from '../hands.js';

const shot = async (name: string, colour: string) => ({
  name,
  mimeType: 'image/jpeg',
  buffer: await sharp({ create: { width: 640, height: 640, channels: 3, background: colour } })
    .jpeg()
    .toBuffer(),
});
const choose = (page: Page) => page.getByLabel('Files', { exact: true });
const foot = (page: Page) => page.getByRole('contentinfo');
const picturesOf = async (page: Page, sku: string): Promise<string[]> => {
  const [{ id }] = (await read(page, `/api/search?q=${sku}&only=ordered`)).items;
  const { values } = await read(page, `/api/products/${id}`);
  return (values.find(({ role }: { role: string }) => role === 'pictures').text ?? '').split(', ');
};

test('a pile of files goes to the goods whose numbers stand in their names; what is no picture is told', async ({
  page,
}) => {
  await page.goto('/pictures');
  const before = await picturesOf(page, 'MS-AMB71-13-HA');
  await choose(page).setInputFiles([
    await shot('MS_AMB71_13_HA.back.jpg', '#885533'),
    await shot('MS-AMB71-16-HA 2.jpg', '#335588'),
    await shot('workshop.jpg', '#333333'),
    { name: 'drawing.png', mimeType: 'image/png', buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>') },
  ]);
  const places = page.getByRole('table', { name: 'Where pictures belong' });
  await expect(places.getByRole('row')).toHaveCount(4);
  await expect(page.getByText(/“drawing.png” is/)).toBeVisible();
  await expect(
    places.getByRole('row', { name: /workshop/ }).getByText('no number of ours stands in its name'),
  ).toBeVisible();
  await places.getByLabel('Give MS-AMB71-16-HA 2.jpg').uncheck();
  await page.getByRole('button', { name: 'Give 1 picture to 1 product' }).click();
  await expect(places).toHaveCount(0);
  expect(await picturesOf(page, 'MS-AMB71-13-HA')).toEqual([...before, 'MS_AMB71_13_HA.back.jpg']);
  await undoAtTheFoot(page, 'Gave 1 picture to 1 product');
  await expect.poll(() => picturesOf(page, 'MS-AMB71-13-HA')).toEqual(before);
});

test('what nothing names is described, and thrown away', async ({ page }) => {
  await page.goto('/pictures?which=unused&search=workshop');
  await page.getByRole('button', { name: /^workshop\.jpg/ }).click();
  const drawer = page.getByRole('complementary', { name: 'Picture' });
  await expect(drawer.getByText('JPEG, 640 × 640')).toBeVisible();
  await drawer.getByLabel('German (Germany)').fill('Die Werkstatt');
  await drawer.getByRole('button', { name: 'Save' }).click();
  await expect(drawer.getByRole('button', { name: 'Save' })).toBeDisabled();
  await page.reload();
  await expect(drawer.getByLabel('German (Germany)')).toHaveValue('Die Werkstatt');
  await drawer.getByRole('button', { name: 'Remove workshop.jpg' }).click();
  await drawer.getByRole('button', { name: 'Remove workshop.jpg' }).click();
  await expect(page.getByText('None has this in its name.')).toBeVisible();
});

test('pictures of a product are brought in on its page, ordered by keys, and saved with the rest', async ({ page }) => {
  const before = await picturesOf(page, 'MS-AMB71-20-HA');
  const [{ id }] = (await read(page, '/api/search?q=MS-AMB71-20-HA&only=ordered')).items;
  await page.goto(`/catalog/product/${id}?tab=pictures`);
  await choose(page).setInputFiles([await shot('top view.jpg', '#558833')]);
  const hung = page.getByRole('list', { name: 'Pictures' });
  await expect(hung.getByRole('listitem')).toHaveCount(before.length + 1);
  await hung.getByRole('button', { name: /^top view\.jpg, place/ }).focus();
  await page.keyboard.press('Space');
  // The keys are heard once the pictures are measured.
  const last = before.length + 1;
  await expect(page.getByText(`top view.jpg is over place ${last} of ${last}`)).toBeAttached();
  for (let place = last; place > 1; place--) {
    await moveByKey(page, 'ArrowLeft', `top view.jpg is over place ${place - 1} of ${last}`);
  }
  await page.keyboard.press('Space');
  await expect(hung.getByRole('button', { name: 'top view.jpg, place 1' })).toBeVisible();
  await page.getByRole('button', { name: /^Save/ }).click();
  await expect.poll(() => picturesOf(page, 'MS-AMB71-20-HA')).toEqual(['top view.jpg', ...before]);
  await foot(page).getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => picturesOf(page, 'MS-AMB71-20-HA')).toEqual(before);
});

for (const path of ['/pictures', '/pictures?which=missing'])
  test(`axe finds nothing wrong on ${path}`, async ({ page }) => {
    expect(await faultsOn(page, path)).toEqual([]);
  });
