/** Makes the catalogue of the Windowsill shop: part of Mosswick's goods, as the shop keeps them. Run by hand; same input, same bytes. */
import { readFileSync, writeFileSync } from 'node:fs';
import Papa from 'papaparse';

const here = (path) => new URL(path, import.meta.url);
const text = readFileSync(here('../../../demo/files/intake/mosswick-own.tsv'), 'utf8').replace(/^\uFEFF/, '');
const { data } = Papa.parse(text, { delimiter: '\t', header: true, skipEmptyLines: true });
const families = new Map();
for (const row of data) families.set(row.Family, [...(families.get(row.Family) ?? []), row]);
const goods = [...families]
  .filter((_, i) => i % 2 === 0)
  .map(([, rows], n) => ({
    number: `W-${String(1000 + n)}`,
    name: rows[0].Title.split(',')[0].replace(/\s\d+ cm.*/, ''),
    text: rows[0].Description,
    maker: rows[0].Brand,
    shelf: rows[0]['Our category'],
    forms: rows.slice(0, 12).map((row, i) => ({
      article: row.SKU,
      ean: row.GTIN,
      label: row.Options.replaceAll('|', ','),
      price: { amount: Number(row['Price GBP'].replace('£', '')) + (i % 7 === 3 ? 0.5 : 0), currency: 'GBP' },
      onShelf: Math.max(0, Number(row.Stock) - (i % 5)),
      photo: row.Picture,
    })),
  }));
writeFileSync(here('../catalogues/windowsill.json'), `${JSON.stringify(goods, null, 1)}\n`);

const kinds = [
  'Fern mister',
  'Seed tray',
  'Bonsai scissors',
  'Root pouch',
  'Moss pole',
  'Orchid clip set',
  'Drip saucer',
  'Plant label set',
];
const reference = kinds.map((kind, i) => {
  const body = `27900000${String(1000 + i * 37)}`;
  const sum = [...body].reduceRight(
    (total, digit, at) => total + Number(digit) * ((body.length - 1 - at) % 2 === 0 ? 3 : 1),
    0,
  );
  return {
    GTIN: `${body}${(10 - (sum % 10)) % 10}`,
    Title: `${kind} ${['Tarrowby', 'Wefterby', 'Glimmet'][i % 3]}`,
    Brand: ['Tarrowby', 'Wefterby', 'Glimmet'][i % 3],
    Description: `A ${kind.toLowerCase()} as it is described in the channel's own catalogue.`,
    Page: `https://orrivane.example/goods/${body}`,
  };
});
writeFileSync(here('../catalogues/orrivane-goods.json'), `${JSON.stringify(reference, null, 1)}\n`);
