/**
 * The demo's awkward files against what their README says a careful reader finds: what it counts is counted here out of the
 * answers that the dry run, the trust screen and the matching screen are made of. In this order.
 */
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const readme = readFileSync(new URL('../../../demo/files/intake/README.md', import.meta.url), 'utf8');

/** "| phrase | 12 |" under the heading of a file → 12. */
const readerFinds = new Map(
  readme.split(/^## /m).flatMap((part) => {
    const file = part.slice(0, part.indexOf('\n')).trim();
    return [...part.matchAll(/^\| (.+?) \| (\d+) \|$/gm)].map(
      ([, phrase, n]) => [`${file}: ${phrase}`, Number(n)] as const,
    );
  }),
);
const told = (file: string, phrase: string) => {
  const n = readerFinds.get(`${file}: ${phrase}`);
  if (n === undefined) throw new Error(`The README counts no “${phrase}” in ${file}`);
  return n;
};

/** What the README says of the own sheet against one supplier's file. */
const pairsTold = (phrase: string, supplier: 'Brackwater' | 'Lumenloam' | 'Kestrelgate') => {
  const row = readme.split('\n').find((line) => line.startsWith(`| ${phrase} |`)) ?? '';
  return Number(row.split('|')[2 + ['Brackwater', 'Lumenloam', 'Kestrelgate'].indexOf(supplier)]);
};

interface Tried {
  columns: string[];
  counts: Body;
  rows: Body[];
}

async function tryFile(name: string): Promise<Tried & { id: number }> {
  const { body } = await client.uploadDemo(name);
  const { counts } = (await client.send('POST', `/api/batches/${body.id}/try`)).body;
  const rows: Body[] = [];
  for (let cursor: string | null = ''; cursor !== null;) {
    const page: Body = (await client.get(`/api/batches/${body.id}/rows?limit=200${cursor && `&cursor=${cursor}`}`))
      .body;
    rows.push(...page.items);
    cursor = page.next;
  }
  return { id: body.id, columns: body.columns, counts, rows };
}

const noted = ({ rows }: Tried, column: RegExp, note: RegExp) =>
  rows.filter((row) => row.notes.some((row: Body) => column.test(row.column) && note.test(row.note))).length;
const refused = ({ rows }: Tried, reason: RegExp) =>
  rows.filter((row) => row.reasons.some((text: string) => reason.test(text))).length;

/** In how many products the sources disagree on each attribute. */
async function disputed(): Promise<Map<string, number>> {
  const { body } = await client.get('/api/trust');
  return new Map(body.items.map((body: Body) => [body.attribute, body.disputed]));
}

const files = new Map<string, Tried & { id: number }>();
const suppliersFiles = {
  Brackwater: 'brackwater-pottery.csv',
  Lumenloam: 'lumenloam-lighting.xlsx',
  Kestrelgate: 'kestrelgate-seeds.json',
} as const;
/** By supplier: products joined, and disputes of each attribute, that its file has added. */
const added = new Map<string, { joined: number; disputes: Map<string, number> }>();

beforeAll(async () => {
  await client.signIn();
  const joined = async () => (await client.get('/api/matches/joined?limit=1')).body.total as number;
  const apply = async (name: string) => {
    const tried = await tryFile(name);
    files.set(name, tried);
    await client.send('POST', `/api/batches/${tried.id}/apply`);
  };
  await apply('mosswick-own.tsv');
  for (const [supplier, name] of Object.entries(suppliersFiles)) {
    const before = { joined: await joined(), disputes: await disputed() };
    await apply(name);
    const now = await disputed();
    added.set(supplier, {
      joined: (await joined()) - before.joined,
      disputes: new Map([...now].map(([key, n]) => [key, n - (before.disputes.get(key) ?? 0)])),
    });
  }
  files.set('price-stock-update.csv', await tryFile('price-stock-update.csv'));
});
afterAll(() => db.$client.end());

const file = (name: string) => files.get(name) as Tried;

describe('brackwater-pottery.csv', () => {
  const name = 'brackwater-pottery.csv';

  it.each([
    ['rows without an article number', /without an article number/],
    ['rows with too few columns', /a separator is missing/],
    ['rows with one column too many', /holds the separator/],
    ['second rows of an article number, with another price, weight and name', /stands on an earlier row/],
    ['header line repeated among the rows', /header stands here again/],
    ['rows of empty cells', /row is empty/],
    ['totals row (the last)', /totals row/],
  ])('refuses the %s', (phrase, reason) => expect(refused(file(name), reason)).toBe(told(name, phrase)));

  it('brings in every usable row', () => {
    expect(file(name).counts).toMatchObject({ created: 28, joins: 151, refused: 18 });
    expect(file(name).rows.length).toBe(197);
  });

  it.each([
    ['description with script', /Beschreibung/, /script/],
    ['description with iframe', /Beschreibung/, /iframe/],
    ['description with inline style', /Beschreibung/, /inline style/],
    ['GTIN with a wrong check digit', /EAN/, /wrong check digit/],
    ['weight written in grams with its unit ("540 g") under "Gewicht (kg)"', /Gewicht/, /its own unit/],
    ['diameter with text ("Ø 12 cm", "ca. 14")', /Durchmesser/, /the number in it/],
    ['retail price 0,00', /UVP/, /the amount is 0/],
  ])('notes: %s', (phrase, column, note) => expect(noted(file(name), column, note)).toBe(told(name, phrase)));

  it('names the last row with its number and all of its cells', () => {
    const last = file(name).rows.at(-1);
    expect(last).toMatchObject({ row: 198, outcome: 'refused' });
    expect(last.cells.length).toBeGreaterThan(1);
  });
});

describe('price-stock-update.csv', () => {
  const name = 'price-stock-update.csv';

  it('lists unknown numbers, and second rows', () => {
    expect(refused(file(name), /no article number/)).toBe(
      told(name, 'rows with an article number that brackwater-pottery.csv does not have'),
    );
    expect(refused(file(name), /stands on an earlier row/)).toBe(
      told(name, 'article numbers that come twice, with different stock'),
    );
  });

  it('finds numbers in small letters or with a space behind', () =>
    expect(file(name).counts.changed).toBe(151 - 7 - 2));

  it.each([
    ['price is text ("auf Anfrage")', /not a price/],
    ['price 0,00', /the amount is 0/],
  ])('notes: %s', (phrase, note) => expect(noted(file(name), /Netto/, note)).toBe(told(name, phrase)));
});

describe('lumenloam-lighting.xlsx', () => {
  const name = 'lumenloam-lighting.xlsx';

  it.each([
    ['GTIN a text such as "2.30800E+12" (digits lost)', /GTIN|EAN/, /has dropped/],
    ['GTIN a number of 7 digits that was a GTIN-8', /EAN/, /leading zero/],
    ['GTIN with a wrong check digit', /GTIN/, /wrong check digit/],
    ['colour temperature a bare number', /Colour temp/, /no unit/],
  ])('notes: %s', (phrase, column, note) => expect(noted(file(name), column, note)).toBe(told(name, phrase)));

  it('takes marks that say that there is nothing for nothing, and finds no fault in them', () => {
    const phrase = '"n/a", "tbc" or "-" in a numeric column';
    const { columns, rows } = file(name);
    const figures = columns.flatMap((column, i) => (/\[(?:cm|lm|g)\]/.test(column) ? [i] : []));
    const marked = rows.filter((row) => figures.some((i) => /^(?:n\/a|tbc|-)$/i.test(row.cells[i])));
    expect(marked.length).toBe(told(name, phrase));
    expect(noted(file(name), /\[(?:cm|lm|g)\]/, /not a number/)).toBe(0);
  });

  it('takes scientific notation of which all digits are there as they are', () => {
    const shown = file(name).rows.filter((row) => row.cells.some((cell: string) => /^\d\.\d+E\+\d+$/i.test(cell)));
    expect(shown.length).toBe(told(name, 'GTIN a text such as "2.30800E+12" (digits lost)'));
  });

  it('refuses the note below the goods and nothing else', () =>
    expect(file(name).counts).toMatchObject({ created: 18, joins: 70, refused: 1 }));
});

describe('kestrelgate-seeds.json', () => {
  const name = 'kestrelgate-seeds.json';

  it.each([
    ['GTIN with a wrong check digit', /gtin/, /wrong check digit/],
    ['number of seeds as text ("approx. 250")', /seeds/, /the number in it/],
  ])('notes: %s', (phrase, column, note) => expect(noted(file(name), column, note)).toBe(told(name, phrase)));

  it('has one row for every packet, and refuses the item without one', () => {
    expect(file(name).counts).toMatchObject({ created: 81, joins: 37, refused: told(name, 'items without a packet') });
  });

  it('reads prices written as text like the others', () => expect(noted(file(name), /price/, /not a price/)).toBe(0));
});

describe('mosswick-own.tsv', () => {
  const name = 'mosswick-own.tsv';

  it.each([
    ['description with script', /Description/, /script/],
    ['description with iframe', /Description/, /iframe/],
    ['description with inline style', /Description/, /inline style/],
    ['GTIN with a wrong check digit', /GTIN/, /wrong check digit/],
    ['GTIN in scientific notation (digits lost)', /GTIN/, /has dropped/],
    ['GTIN-8 without its leading zero', /GTIN/, /leading zero/],
  ])('notes: %s', (phrase, column, note) => expect(noted(file(name), column, note)).toBe(told(name, phrase)));

  it('keeps every row, bare inch marks and line breaks within them', () => {
    expect(file(name).counts).toMatchObject({ created: 417, refused: 0 });
    expect(file(name).rows.filter((row) => /\d"/.test(row.title ?? '')).length).toBeGreaterThanOrEqual(
      told(name, 'bare inch mark within an unquoted title'),
    );
  });

  it('names the paths our tree does not have: those told, and one of a branch that is called otherwise', () => {
    const strangers = file(name).rows.flatMap((row) =>
      row.notes.filter((note: Body) => note.column === 'Our category').map((note: Body) => note.cell),
    );
    expect(strangers.filter((path) => path !== 'Gifts/Seed mixes').length).toBe(
      told(name, 'category that our tree does not have'),
    );
  });
});

describe('the same goods in two files', () => {
  const differ = new Map(
    [...readme.matchAll(/(Brackwater|Lumenloam|Kestrelgate) \(((?:\w+ \d+(?:, )?)+)\)/g)].map(
      ([, supplier = '', list = '']) => [supplier, list.split(', ').map((text) => text.split(' ') as [string, string])],
    ),
  );
  const keys: Record<string, string> = { cable: 'cable', flux: 'luminousFlux', sow: 'sowingMonths' };

  it.each(['Lumenloam', 'Kestrelgate'] as const)('%s: found by any key', (supplier) =>
    expect(added.get(supplier)?.joined).toBe(pairsTold('found by any key', supplier)),
  );

  it.each(['Brackwater', 'Lumenloam', 'Kestrelgate'] as const)('%s: sources disagree where they do', (supplier) => {
    const expected = differ.get(supplier) ?? [];
    expect(expected.length).toBeGreaterThan(2);
    for (const [word, n] of expected)
      expect([word, added.get(supplier)?.disputes.get(keys[word] ?? word)]).toEqual([word, Number(n)]);
  });
});
