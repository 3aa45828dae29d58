/** A channel's set-up in the real interface, on the goods that were brought in before: fills tried before they are saved, a rulebook taken, listings found, all of it taken back from the history. */
import { expect, faultsOn, idle, moveByKey, read, test, undoAtTheFoot } from '../hands.js';

test.describe.configure({ mode: 'serial' });

const ready = async (page: Parameters<typeof read>[0]): Promise<number> =>
  (await read(page, '/api/listings?place=1&readiness=ready&limit=1')).total;

test('a fill is composed, tried on all goods, put back, fitted and saved', async ({ page }) => {
  await page.goto('/places/1/fills');
  await page
    .getByRole('row')
    .filter({ hasText: /^Short wording/ })
    .click();
  await expect(page.getByText('As it is now.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save' })).toBeDisabled();
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: /compose|put together|parts/i }).click();
  await expect(page.getByText('Tried on the whole assortment, not saved.')).toBeVisible();
  await page.getByLabel('After').first().fill(' | Mosswick');
  await expect(page.getByRole('cell', { name: /\| Mosswick/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(page.getByText('As it is now.')).toBeVisible();
  await expect(page.getByRole('cell', { name: /\| Mosswick/ })).toHaveCount(0);
  await page.getByRole('button', { name: /to 110 characters/ }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/^Saved; \d+ listings? re-checked/)).toBeVisible();
  await expect(page.getByText('As it is now.')).toBeVisible();
});

test('the foot takes the fill back; the history says so', async ({ page }) => {
  await page.goto('/places/1/fills');
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Changed how Short wording is filled/)).toBeVisible();
  await page.getByRole('contentinfo').getByRole('link', { name: 'History' }).click();
  const row = page.getByRole('row').filter({ hasText: 'Changed how Short wording is filled', hasNotText: 'Undid' });
  await expect(row).toContainText('Iris Ravensbourne');
  await expect(row.getByText('undone')).toBeVisible();
});

test('a fill by cases is composed of comparisons and what is sent then, tried, saved and read again', async ({
  page,
}) => {
  await page.goto('/places/1/fills');
  await page
    .getByRole('row')
    .filter({ hasText: /^Short wording/ })
    .click();
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: /^when/i }).click();
  const first = page.getByRole('listitem').filter({ hasText: 'When' }).first();
  await first.getByLabel('Attribute').click();
  await page.getByRole('option', { name: 'Stock', exact: true }).click();
  await first.getByLabel('Comparison').click();
  await page.getByRole('option', { name: 'is at least' }).click();
  await first.getByLabel('Value').first().fill('1');
  await page.getByRole('button', { name: 'Add a case' }).click();
  await expect(page.getByRole('button', { name: 'Remove case 2' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove case 2' }).click();
  await expect(page.getByText('Tried on the whole assortment, not saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/^Saved/)).toBeVisible();
  await page.reload();
  await page
    .getByRole('row')
    .filter({ hasText: /^Short wording/ })
    .click();
  await expect(first.getByLabel('Comparison')).toHaveText('is at least');
  await expect(first.getByLabel('Value').first()).toHaveValue('1');
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Changed how Short wording is filled/)).toBeVisible();
});

test('words a translation has no pair for stand with what they may be, are taken, saved and taken back', async ({
  page,
}) => {
  await page.goto('/places/1/fills?attribute=differsShade');
  const open = page.getByRole('region', { name: 'Not translated yet' });
  await expect(open.getByRole('heading')).toHaveText(/^\d+ words? not translated yet, on \d+ listings?$/);
  const taken = open.getByRole('button', { name: /^Sage is / }).first();
  const shade = ((await taken.getAttribute('aria-label')) ?? '').replace('Sage is ', '');
  await taken.click();
  await expect(page.getByText(`Sage → ${shade}`)).toBeVisible();
  await expect(open.getByRole('button', { name: /^Sage is / })).toHaveCount(0);
  await expect(page.getByText('Tried on the whole assortment, not saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/^Saved; \d+ listings? re-checked, \d+ became ready/)).toBeVisible();
  await page.getByRole('contentinfo').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Undid: Changed how/)).toBeVisible();
});

test('a fixed value over goods that hold others is told, and copied instead', async ({ page }) => {
  await page.goto('/places/1/fills?attribute=maker');
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: /fixed value/i }).click();
  await page.getByLabel('Value', { exact: true }).fill('One maker');
  await expect(page.getByText(/^All of them get this one value, and their own Brand differs: /)).toBeVisible();
  await page.getByRole('button', { name: 'Copy Brand instead' }).click();
  await expect(page.getByLabel('Filled by')).toHaveText(/copy/i);
});

test('a text is laid out of blocks, and seen as a shopper sees it', async ({ page }) => {
  await page.goto('/places/1/fills?attribute=long');
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: 'Lay out of blocks' }).click();
  await page.getByRole('combobox', { name: 'Text', exact: true }).click();
  await page.getByRole('option', { name: 'Description' }).click();
  const add = async (name: string) => {
    await page.getByRole('button', { name: 'Add a block' }).click();
    await page.getByRole('menuitem', { name }).click();
  };
  await add('A list of attributes');
  await page.getByRole('combobox', { name: 'Attributes' }).fill('Material');
  await page.getByRole('option', { name: 'Material', exact: true }).click();
  await page.keyboard.press('Escape');
  await add('Heading');
  await page.getByRole('textbox', { name: 'Heading' }).fill('Made <of>');
  // The list was taken with what begins it: its first source.
  await page.getByRole('button', { name: 'Without: Take markup out' }).click();
  const seen = page.getByRole('figure').first();
  await expect(seen.getByRole('listitem').filter({ hasText: 'Material' })).toBeVisible();
  // A heading over nothing is none; moved before the list it stands.
  await expect(seen.getByRole('heading')).toHaveCount(0);
  await page.getByRole('button', { name: /^Move Heading/ }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/Heading is over place 3 of 3/)).toBeAttached();
  await moveByKey(page, 'ArrowUp', /Heading is over place 2 of 3/);
  await page.keyboard.press('Space');
  await expect(seen.getByRole('heading', { name: 'Made <of>' })).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await undoAtTheFoot(page, /^Changed how Long wording is filled/);
});

test('the next rulebook is taken: what was foreseen happens, and the older one is taken again', async ({ page }) => {
  await idle(page);
  const before = await ready(page);
  await page.goto('/places/1/rulebook');
  const next = page.getByRole('article').filter({ hasText: 'Version 2026.2' });
  await next.getByRole('button', { name: 'Try it on our goods' }).click();
  const said = next.getByText(/listings? would be blocked, \d+ would/);
  await expect(said).toBeVisible();
  const [blocked = 0, freed = 0] = ((await said.textContent()) ?? '').match(/\d+/g)?.map(Number) ?? [];
  expect(blocked).toBeGreaterThan(0);
  await next.getByRole('button', { name: 'Take it by itself on a day' }).click();
  await next.getByLabel('Day it is taken').fill('2020-01-01');
  await next.getByRole('button', { name: 'Plan it' }).click();
  await expect(next.getByText('Choose a later day, or take the version now')).toBeVisible();
  await next.getByLabel('Day it is taken').fill('2999-02-01');
  await next.getByRole('button', { name: 'Plan it' }).click();
  await expect(next.getByText('It is taken by itself on 1 Feb 2999.')).toBeVisible();
  await next.getByRole('button', { name: 'Not any more' }).click();
  // Before the day it holds from it is asked for in other words.
  await next.getByRole('button', { name: /^Use (this version|it now)/ }).click();
  await expect(next.getByText('in use', { exact: true })).toBeVisible();
  await expect.poll(() => ready(page)).toBe(before - blocked + freed);
  const old = page.getByRole('article').filter({ hasText: 'Version 2026.1' });
  await old.getByRole('button', { name: 'Use this version' }).click();
  await expect.poll(() => ready(page)).toBe(before);
});

test('a rulebook is read as one category is asked, and a limit said anew is a version that waits', async ({ page }) => {
  await page.goto('/places/1/rulebook');
  const card = page.getByRole('article').filter({ hasText: 'Version 2026.1' });
  await card.getByRole('button', { name: 'Read and change what it asks for' }).click();
  const fields = card.getByRole('region', { name: 'Fields of version 2026.1' });
  await expect(fields.getByRole('row').filter({ hasText: 'Short wording' })).toContainText('12–110 characters');
  await fields.getByLabel('As it is asked in').fill('Indoor pots');
  await page.getByRole('option', { name: /Indoor pots$/ }).click();
  await fields.getByRole('button', { name: 'Change Short wording' }).click();
  await fields.getByLabel('Most characters').fill('many');
  await expect(fields.getByText('No number')).toBeVisible();
  await fields.getByLabel('Most characters').fill('70');
  await fields.getByRole('button', { name: 'Note the change' }).click();
  await expect(fields.getByText('Short wording in Indoor pots: most characters 70')).toBeVisible();
  await fields.getByLabel('As version').fill('2026.1 shorter');
  await fields.getByRole('button', { name: 'Make the version' }).click();
  const made = page.getByRole('article').filter({ hasText: 'Version 2026.1 shorter' });
  await expect(made.getByRole('row').filter({ hasText: 'Short wording' })).toContainText('Indoor pots');
  await expect(made.getByRole('button', { name: 'Try it on our goods' })).toBeVisible();
});

test('a category is saved as JSON Schema, and one that is read is a version that waits', async ({ page }) => {
  await page.goto('/places/1/rulebook');
  const part = page.getByRole('region', { name: 'A category as JSON Schema' });
  await part.getByLabel('Category').fill('Indoor pots');
  await page.getByRole('option', { name: /Indoor pots$/ }).click();
  const file = page.waitForEvent('download');
  await part.getByRole('button', { name: 'Save it as a file' }).click();
  expect((await file).suggestedFilename()).toBe('plants-growing-pots-planters-indoor-pots.schema.json');
  await expect(part.getByText('What the file does not say:')).toBeVisible();
  await part.getByLabel('As version').fill('by schema');
  const schema = { properties: { depth: { type: 'number', title: 'Depth' }, box: { type: 'object' } } };
  await part.getByLabel('Schema file').setInputFiles({
    name: 'pots.schema.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(schema)),
  });
  await expect(part.getByText(/^properties\.box: only texts, numbers/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Version by schema' })).toBeVisible();
});

test('a file that is no rulebook is refused with the places where', async ({ page }) => {
  await page.goto('/places/1/rulebook');
  await page.getByLabel('Rulebook file').setInputFiles({
    name: 'rules.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"channel":"orrivane"}'),
  });
  await expect(page.getByText(/This is no rulebook we can use/)).toBeVisible();
});

test('listings are narrowed by state and words; the address keeps it', async ({ page }) => {
  await page.goto('/listings');
  const { total } = await read(page, '/api/listings?limit=1');
  await expect(page.getByText(`${total} listings`)).toBeVisible();
  await page.getByRole('button', { name: 'blocked', exact: true }).click();
  await expect(page).toHaveURL(/readiness=blocked/);
  const { total: blocked } = await read(page, '/api/listings?readiness=blocked&limit=1');
  await expect(page.getByText(`${blocked} listing`)).toBeVisible();
  await page.getByRole('button', { name: 'blocked', exact: true }).click();
  await page.getByLabel('Search listings').fill('MS-HOL42-10-OC');
  await expect(page.getByText('1 listing', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Search listings')).toHaveValue('MS-HOL42-10-OC');
  await page.getByLabel('Search listings').fill('no such thing');
  await expect(page.getByText('Take a filter away to see more.')).toBeVisible();
});

test('a page that an update took away can be loaded again; one there never was leads home', async ({ page }) => {
  await page.goto('/history');
  await expect(page.getByRole('heading', { name: 'History' })).toBeVisible();
  await page.route(/assets\/Listings.*\.js/, (route) => route.fulfill({ status: 404, body: '' }));
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find anything').fill('listings');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This page could not be fetched')).toBeVisible();
  await page.unroute(/assets\/Listings.*\.js/);
  await page.getByRole('button', { name: 'Load the page again' }).click();
  await expect(page.getByRole('heading', { name: /Listings/ })).toBeVisible();
  await page.goto('/nothing/of/the/kind');
  await page.getByRole('link', { name: 'Go to Today' }).click();
  await expect(page.getByText('Where everything stands')).toBeVisible();
});

for (const path of ['/places/1/fills', '/places/1/rulebook', '/history'])
  test(`axe finds nothing wrong on ${path}`, async ({ page }) => {
    expect(await faultsOn(page, path)).toEqual([]);
  });

test('rooms lead to every page, by letters and arrows too, and name the one that is open', async ({ page }) => {
  await page.goto('/feeds');
  const rooms = page.getByRole('button', { name: /^Rooms/ });
  await expect(rooms).toContainText('Feeds');
  await rooms.click();
  const panel = page.getByRole('dialog', { name: 'Rooms' });
  await expect(panel.getByRole('link', { name: 'Feeds' })).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await expect(panel.getByRole('link', { name: 'Listings' })).toBeFocused();
  await page.keyboard.type('mat');
  await expect(panel.getByRole('link', { name: 'Matching' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(panel).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Matching' })).toBeVisible();
  await expect(rooms).toContainText('Matching');
  await rooms.click();
  await panel.getByRole('link', { name: 'Orrivane, Great Britain' }).click();
  await expect(page).toHaveURL(/\/places\/\d+/);
  await expect(rooms).toContainText('Orrivane, Great Britain');
  await rooms.click();
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(rooms).toBeFocused();
});

test('a question mark lists the keys, but not where one types', async ({ page }) => {
  await page.goto('/matching');
  await expect(page.getByPlaceholder('Find goods')).toBeVisible();
  await page.keyboard.press('?');
  const keys = page.getByRole('dialog', { name: 'Keys' });
  await expect(keys.getByText('the same goods')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  await page.getByPlaceholder('Find goods').fill('?');
  await expect(keys).toBeHidden();
});

test('a fill is said otherwise for the goods of one category, which wins there, and is taken away again', async ({
  page,
}) => {
  await page.goto('/places/1/fills?attribute=short');
  const goods = page.getByRole('group', { name: 'Goods it is for' });
  await expect(goods.getByRole('button')).toHaveCount(1);
  await page.getByRole('button', { name: 'Otherwise for some' }).click();
  await page.getByLabel('Goods in the channel’s category').fill('Indoor pots');
  await page.getByRole('option', { name: /Indoor pots$/ }).click();
  await page.getByRole('button', { name: 'Say it for these' }).click();
  await page.getByLabel('Filled by').click();
  await page.getByRole('option', { name: 'One fixed value' }).click();
  await page.getByLabel('Value', { exact: true }).fill('A pot for indoors');
  await expect(page.getByText('Tried on the whole assortment, not saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/^Saved; \d+ listings? re-checked/)).toBeVisible();
  await expect(goods.getByRole('button', { name: /^Indoor pots [1-9]/ })).toBeVisible();
  await expect(page.getByText(/listings? gets? this\.$/)).toBeVisible();
  await goods.getByRole('button', { name: /^All goods/ }).click();
  await expect(page.getByText(/one of a preset or for fewer goods stands before it/)).toBeVisible();
  await goods.getByRole('button', { name: /^Indoor pots/ }).click();
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(goods.getByRole('button')).toHaveCount(1);
});

test('anything is found from anywhere by keys: a page, goods; signing out ends the session', async ({ page }) => {
  await page.goto('/feeds');
  await expect(page.getByRole('heading', { name: 'Feeds' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByLabel('Find anything').fill('hist');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'History' })).toBeVisible();
  await page.keyboard.press('Control+k');
  // Enter at once: the goods are opened when they are found.
  await page.getByLabel('Find anything').fill('MS-HOL42-10-OC');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Product', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: /^Account of/ }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByLabel('Password')).toBeVisible();
  await page.goto('/catalog');
  await expect(page.getByLabel('Password')).toBeVisible();
});
