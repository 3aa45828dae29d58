/** The way from an empty database to a first checked feed with goods of one's own, by what the screens say; whose hands walk it, they say. */
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { type Locator, type Page, expect } from '@playwright/test';

/** How a stranger does what a screen asks of her. */
export interface Hands {
  click(target: Locator): Promise<void>;
  type(label: string, text: string): Promise<void>;
  press(target: Locator, key: string): Promise<void>;
  /** Typed, and taken with Enter. */
  pick(label: string, text: string, option: string): Promise<void>;
  /** Given to a field for files, which `opener` opens. */
  file(field: Locator, opener: Locator, name: string, text: string): Promise<void>;
}

const terminal = fileURLToPath(new URL('../apps/server/dist/session/terminal.js', import.meta.url));
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

/** Walks it; the feed's page is open at the end. */
export async function walk(page: Page, hands: Hands): Promise<void> {
  const { click, type, press, pick, file } = hands;
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
  await press(page.getByRole('combobox', { name: 'Languages of its texts' }), 'Backspace');
  await pick('Languages of its texts', 'es-CL', 'Spanish (Chile)');
  await pick('Currencies of its prices', 'CLP', 'CLP · Chilean Peso');
  await pick('Time zone', 'America/Santiago', 'America/Santiago');
  await click(button('Make the company'));

  await expect(page.getByRole('heading', { name: 'The shelf stands. Next: the first goods.' })).toBeVisible();
  await click(page.getByRole('link', { name: 'Bring in: First goods' }));
  await file(page.getByLabel('File', { exact: true }), button('Choose a file'), 'telares.csv', goods);
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
  await file(page.getByLabel('Rulebook file'), button('Choose the file'), 'feria.json', JSON.stringify(rulebook));
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
  const address = await page.locator('code').first().textContent();
  const written = await (await page.request.get(address ?? '')).text();
  expect(written.split('\n').filter(Boolean)).toHaveLength(38);
  // Pesos have no hundredths.
  expect(written).toContain('15990');
  expect(written).not.toContain('15990.00');
}
