/** From an empty database to a first checked feed with goods of one's own, by clicks a stranger finds; each click and each typed field is counted. */
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { Locator, Page } from '@playwright/test';
import { expect, faultsOn, stranger as test } from '../hands.js';

const terminal = fileURLToPath(new URL('../../apps/server/dist/session/terminal.js', import.meta.url));
/** What ./velvet code prints. */
const newCode = () =>
  execFileSync(process.execPath, [terminal, 'code'], { encoding: 'utf8' }).trim().split(' ').at(-1) ?? '';

/** A weaver in Chile: another language, a currency without decimals, eight families, six categories, three columns of her trade. */
const families = [
  ['Quillay', 'Manta', 'Textiles > Mantas'],
  ['Peumo', 'Poncho', 'Ropa > Ponchos'],
  ['Boldo', 'Bufanda', 'Ropa > Bufandas'],
  ['Litre', 'Cojín', 'Hogar > Cojines'],
  ['Maitén', 'Alfombra', 'Hogar > Alfombras'],
  ['Canelo', 'Camino de mesa', 'Hogar > Mesa'],
  ['Arrayán', 'Chal', 'Ropa > Bufandas'],
  ['Coigüe', 'Frazada', 'Textiles > Mantas'],
] as const;
const colours = ['rojo', 'azul', 'gris', 'verde', 'natural'];
const header =
  'Código;Modelo;Nombre;Color;Categoría;Precio venta (CLP);Existencias;Material;Puntadas por cm;Técnica;Artesana\n';
const goods =
  header +
  families
    .flatMap(([family, kind, category], f) =>
      colours.map((colour, c) => {
        const n = f * colours.length + c;
        // Three have no price: the channel takes none without.
        const price = n % 13 === 12 ? '' : String(15_990 + 1000 * n);
        const technique = ['telar', 'crochet', 'palillo'][n % 3];
        return [
          `TQ-${100 + n}`,
          family,
          `${kind} ${family} ${colour}`,
          colour,
          category,
          price,
          String((n * 7) % 30),
          'lana de oveja',
          String(3 + (n % 5)),
          technique,
          ['Rosa', 'Elvira'][n % 2],
        ].join(';');
      }),
    )
    .join('\n');

const rulebook = {
  channel: 'feria',
  name: 'Feria del Sur',
  version: '3',
  validFrom: '2026-01-01',
  markets: [{ key: 'CL', name: 'Chile', country: 'CL', language: 'es-CL', currency: 'CLP' }],
  categoryNeed: 'required',
  leafOnly: true,
  categories: [
    ['textiles', 'Textiles'],
    ['textiles/mantas', 'Mantas'],
    ['ropa', 'Ropa'],
    ['ropa/ponchos', 'Ponchos'],
    ['ropa/bufandas', 'Bufandas'],
    ['hogar', 'Hogar'],
    ['hogar/cojines', 'Cojines'],
    ['hogar/alfombras', 'Alfombras'],
    ['hogar/mesa', 'Mesa'],
  ].map(([path, name]) => ({ path, name })),
  attributes: [
    { key: 'codigo', label: 'Código', type: 'text', need: 'required', limits: { maxLength: 20 } },
    { key: 'nombre', label: 'Nombre', type: 'text', need: 'required', limits: { maxLength: 60 } },
    { key: 'precio', label: 'Precio', type: 'money', need: 'required' },
    { key: 'color', label: 'Color', type: 'text', need: 'recommended' },
    { key: 'existencias', label: 'Existencias', type: 'number', need: 'optional' },
    { key: 'rubro', label: 'Rubro', type: 'category', need: 'required' },
  ],
  rules: [],
  eligibility: [],
  exchange: {
    itemKey: 'codigo',
    formats: ['csv'],
    rows: {
      rss: { prefix: 'feria', namespace: 'urn:feria:campos' },
      fields: ['codigo', 'nombre', 'precio', 'color', 'existencias', 'rubro'].map((attribute) => ({
        attribute,
        name: attribute,
      })),
    },
  },
};

/** Hands that count. */
function countingHands(page: Page) {
  const done = { clicks: 0, typed: 0 };
  return {
    done,
    click: async (target: Locator) => {
      done.clicks++;
      await target.click();
    },
    type: async (label: string, text: string) => {
      done.typed++;
      await page.getByLabel(label, { exact: false }).first().fill(text);
    },
    /** Typed, and taken with Enter. */
    pick: async (label: string, text: string, option: string) => {
      done.typed++;
      const field = page.getByRole('combobox', { name: label, exact: false });
      await field.fill(text);
      await expect(page.getByRole('option', { name: option }).first()).toBeVisible();
      await field.press('Enter');
      await field.press('Escape');
    },
    file: async (target: Locator, name: string, text: string) => {
      done.clicks++;
      await target.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    },
  };
}

test('an owner, a company, goods of her own, a channel of her own, a first feed', async ({ page }) => {
  const { click, type, pick, file, done } = countingHands(page);
  const button = (name: string | RegExp) => page.getByRole('button', { name }).first();
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Make it yours' })).toBeVisible();
  // A wrong code is told at its field, and what was typed stays.
  const code = newCode();
  await type('Code of the first visit', 'BBBB-BBBB');
  await type('Your name', 'Rosa Quilapán');
  await type('E-mail address', 'rosa@telares.example');
  await type('Password', 'una-clave-larga');
  await click(button('Make the owner’s account'));
  await expect(page.getByText(/not the code that the command printed last/)).toBeVisible();
  await expect(page.getByLabel('Your name')).toHaveValue('Rosa Quilapán');
  await type('Code of the first visit', code.toLowerCase().replace('-', ' '));
  await click(button('Make the owner’s account'));

  await expect(page.getByRole('heading', { name: 'Your company' })).toBeVisible();
  await type('Name of the company', 'Telares Quillay');
  await pick('Home market', 'Chile', 'Chile');
  await page.getByRole('combobox', { name: 'Languages of its texts' }).press('Backspace');
  await pick('Languages of its texts', 'es-CL', 'Spanish (Chile)');
  await pick('Currencies of its prices', 'CLP', 'CLP · Chilean Peso');
  await pick('Time zone', 'America/Santiago', 'America/Santiago');
  await click(button('Make the company'));

  await expect(page.getByRole('heading', { name: 'The shelf stands. Next: the first goods.' })).toBeVisible();
  await click(page.getByRole('link', { name: 'Bring in: First goods' }));
  await file(page.getByLabel('File', { exact: true }), 'telares.csv', goods);
  await expect(page.getByRole('heading', { name: 'telares.csv' })).toBeVisible();
  await click(page.getByLabel('Supplier', { exact: true }).locator('xpath=..').getByRole('combobox'));
  await click(page.getByRole('option', { name: 'Telares Quillay, own sheet' }));
  await expect(page.getByText('3 columns have no home')).toBeVisible();
  await click(button('Make attributes of them'));
  await expect(page.getByText('Técnica one of a list: telar, crochet, palillo')).toBeVisible();
  await click(button('Make 3 attributes'));
  await click(button('Put all 6 on the list'));
  await expect(page.getByText(/9 new values: Textiles, Mantas, Ropa/)).toBeVisible();
  await click(button(/^Try it/));
  await expect(page.getByText('40 would be created')).toBeVisible();
  await click(button('Apply 40 rows'));
  await expect(button('Undo this batch')).toBeVisible();

  await click(page.getByRole('link', { name: /^Velvet Shelf/ }));
  await expect(page.getByRole('heading', { name: '40 variants are in. Next: where they are sold.' })).toBeVisible();
  await click(page.getByRole('link', { name: 'Choose: A channel' }));
  await click(button('New channel'));
  await file(page.getByLabel('Rulebook file'), 'feria.json', JSON.stringify(rulebook));
  await click(button('Make the place'));
  await expect(page.getByRole('heading', { name: 'Feria del Sur, Chile' })).toBeVisible();
  await click(page.getByRole('tab', { name: 'Category map' }));
  await click(button(/^See what 6 suggestions/));
  await click(button('Accept 6 suggestions'));
  await click(page.getByRole('tab', { name: 'Fills' }));
  await click(button(/^See what 5 fills would do/));
  await expect(page.getByText('37 listings become ready')).toBeVisible();
  await click(button('Take them'));
  await expect(page.getByText('37 ready')).toBeVisible();

  await click(page.getByRole('link', { name: /^Velvet Shelf/ }));
  await click(page.getByRole('link', { name: 'Make: A feed' }));
  await click(button(/^New CSV feed/));
  await click(button('Build now'));
  const balance = page.getByLabel('Balance');
  await expect(balance).toContainText('40in selection=3left out+37in the fileadds up');
  await expect(balance).toContainText('37in the file=0accepted+0warned+0refused+37unansweredadds up');
  expect(done.clicks).toBeLessThanOrEqual(40);
  expect(done.typed).toBeLessThanOrEqual(25);

  const address = await page.locator('code').first().textContent();
  const written = await (await page.request.get(address ?? '')).text();
  expect(written.split('\n').filter(Boolean)).toHaveLength(38);
  // Pesos have no hundredths.
  expect(written).toContain('15990');
  expect(written).not.toContain('15990.00');
});

test('the attributes and categories that came with the batch are the company’s, and go with its undo', async ({
  page,
}) => {
  await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
  await page.goto('/attributes?search=Artesana');
  await expect(page.getByRole('row', { name: /Artesana/ })).toContainText('40');
  await page.goto('/categories');
  await expect(page.getByRole('row', { name: /Bufandas/ })).toContainText('10');
  await page.goto('/intake/1');
  await page.getByRole('button', { name: 'Undo this batch' }).click();
  await expect(page.getByRole('button', { name: 'Undo this batch' })).toBeHidden();
  await page.goto('/attributes?search=Artesana');
  await expect(page.getByText('No attribute of this name')).toBeVisible();
  await page.goto('/categories');
  await expect(page.getByRole('row', { name: /Bufandas/ })).toBeHidden();
});

test('people come in by a link, once; the last owner stays', async ({ page, browser, baseURL }) => {
  await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
  await page.goto('/company?tab=people');
  await page.getByLabel('E-mail address').fill('elvira@telares.example');
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = await page.getByRole('status').locator('code').textContent();
  const guest = await (await browser.newContext({ baseURL })).newPage();
  await guest.goto(new URL(link ?? '').pathname);
  await expect(guest.getByText('elvira@telares.example, as editor')).toBeVisible();
  await guest.getByLabel('Your name').fill('Elvira');
  await guest.getByLabel('Password').fill('corta');
  await guest.getByRole('button', { name: 'Make the account' }).click();
  await expect(guest.getByText('A password has ten letters or more')).toBeVisible();
  await guest.getByLabel('Password').fill('otra-clave-larga');
  await guest.getByRole('button', { name: 'Make the account' }).click();
  await expect(guest.getByRole('link', { name: 'Today' })).toBeVisible();
  const late = await (await browser.newContext({ baseURL })).newPage();
  await late.goto(new URL(link ?? '').pathname);
  await expect(late.getByText(/it was used, has ended, or was withdrawn/)).toBeVisible();
  await page.reload();
  await page.getByLabel('Role of Rosa Quilapán').locator('xpath=..').getByRole('combobox').click();
  await page.getByRole('option', { name: 'viewer' }).click();
  await expect(page.getByText(/is the last owner/)).toBeVisible();
});

test('the company’s currency is changed with goods already in', async ({ page }) => {
  await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
  await page.goto('/company');
  const field = page.getByRole('combobox', { name: 'Currencies of its prices' });
  await field.fill('EUR');
  await field.press('Enter');
  await field.press('Escape');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Kept', { exact: true })).toBeVisible();
  const { currencies } = await (await page.request.get('/api/company')).json();
  expect(currencies).toEqual(['CLP', 'EUR']);
  const stale = await page.request.put('/api/company', {
    data: { ...(await (await page.request.get('/api/company')).json()), version: 1 },
  });
  expect(stale.status()).toBe(412);
});

for (const path of [
  '/',
  '/company',
  '/company?tab=people',
  '/company?tab=suppliers',
  '/company?tab=warehouses',
  '/attributes?make=one',
  '/attributes?make=many',
  '/categories',
  '/channels?make=yes',
  '/places/1/goods',
])
  test(`axe finds nothing on ${path}`, async ({ page }) => {
    await page.request.post('/api/session', { data: { email: 'rosa@telares.example', password: 'una-clave-larga' } });
    expect(await faultsOn(page, path)).toEqual([]);
  });
