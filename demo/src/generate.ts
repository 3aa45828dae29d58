/** The generator for scale: N variants of the same character as the own sheet, seeded. Same seed, same bytes. */
import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { checkDigit } from '@velvet-shelf/core/values';
import { categories } from './scenario.js';

/** Mulberry32: small, fast, good enough to draw goods with. */
function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const columns = [
  'SKU',
  'Family',
  'Options',
  'Title',
  'Description',
  'Title de-DE',
  'Our category',
  'Brand',
  'MPN',
  'GTIN',
  'Price GBP',
  'Sale GBP',
  'Sale starts',
  'Sale ends',
  'Cost GBP',
  'Stock',
  'Material',
  'Colour',
  'Diameter',
  'Height',
  'Volume',
  'Weight',
  'Frost-proof',
  'Drainage hole',
  'Handmade',
  'Care',
  'State',
  'Page',
  'Picture',
] as const;

const brands = [
  'Brackwater',
  'Lumenloam',
  'Kestrelgate',
  'Hobnettle',
  'Tarrowby',
  'Wefterby',
  'Mosswick',
  'Glimmet',
  'Pennyfrond',
  'Dibblecombe',
];
const colours = ['Moss', 'Chalk', 'Slate', 'Soot', 'Rust', 'Ink', 'Ochre', 'Plum', 'Terracotta', 'White'];
const names = [
  'Hollin',
  'Tarn',
  'Fenwick',
  'Skerrow',
  'Marl',
  'Corrie',
  'Dunnock',
  'Oversett',
  'Beck',
  'Thornwick',
  'Larkrise',
  'Mirefold',
];
const things = ['plant pot', 'hanging planter', 'trough', 'plant stand', 'watering can', 'saucer', 'mister', 'trolley'];
const sentences = [
  'The wall is thin and the base is heavy, so that a tall plant does not pull it over.',
  'Turned by hand in small runs; no two glazes break over the rim in quite the same way.',
  'Stands dry on any shelf and keeps its colour in the sun.',
  'Turn the plant out and look: if the roots circle the ball, go up a size.',
  'We turn back pieces with cracks, with a rim that is not level, or with a foot that scratches the table.',
  'Packed in paper and card, without any plastic.',
  'For anything that sulks when wet, pick clay without glaze on the outside.',
];
const leaves = categories.flatMap(({ key, parent }) => (parent === null ? [] : [key]));

/** Header and rows of N variants as TSV lines; about one in ten has a fault a channel would refuse. */
export function* generateRows(count: number, seed = 4180): Generator<string> {
  const random = seeded(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  yield `${columns.join('\t')}\n`;
  for (let made = 0, family = 0; made < count; family++) {
    const size = Math.min(count - made, 1 + Math.floor(random() * 11));
    const [name, thing, brand, category] = [pick(names), pick(things), pick(brands), pick(leaves)];
    const text = Array.from({ length: 4 + Math.floor(random() * 5) }, () => pick(sentences)).join(' ');
    for (let i = 0; i < size; i++, made++) {
      const [colour, diameter] = [colours[i % colours.length] ?? 'Moss', 10 + (i % 8) * 2];
      const fault = random();
      const body = `23${String(made).padStart(10, '0')}`;
      const price = (4 + Math.floor(random() * 4000) / 100).toFixed(2);
      const onSale = random() < 0.08;
      const cells: Record<(typeof columns)[number], string> = {
        SKU: `G-${family}-${i}`,
        Family: `GF${family}`,
        Options: `diameter: ${diameter} cm | glaze: ${colour}`,
        Title:
          fault < 0.02
            ? `${name} ${thing} `.repeat(9).trim()
            : fault < 0.03
              ? `${name} ${thing} free delivery`
              : `${name} ${thing}, ${diameter} cm, ${colour}, no. ${family}`,
        Description: fault > 0.98 ? '' : `<p>${text}</p><p>In ${colour.toLowerCase()}, ${diameter} cm wide.</p>`,
        'Title de-DE': random() < 0.4 ? `${name} Topf ${diameter} cm ${colour}` : '',
        'Our category': category,
        Brand: brand,
        MPN: `${name.slice(0, 3).toUpperCase()}-${family}-${i}`,
        GTIN: fault > 0.97 && fault < 0.98 ? `${body}${(checkDigit(body) + 1) % 10}` : `${body}${checkDigit(body)}`,
        'Price GBP': fault > 0.96 && fault < 0.97 ? '0.00' : price,
        'Sale GBP': onSale ? (Number(price) * 0.8).toFixed(2) : '',
        'Sale starts': onSale ? '2026-11-01' : '',
        'Sale ends': onSale ? '2027-01-31' : '',
        'Cost GBP': (Number(price) * 0.4).toFixed(2),
        Stock: String(Math.floor(random() * 240)),
        Material: pick(['stoneware', 'earthenware', 'oak', 'powder-coated steel']),
        Colour: fault > 0.95 && fault < 0.96 ? 'Mizzle' : colour,
        Diameter: `${diameter} cm`,
        Height: `${diameter - 1} cm`,
        Volume: `${(diameter / 10).toFixed(2)} L`,
        Weight: `${diameter * 40} g`,
        'Frost-proof': pick(['yes', 'no']),
        'Drainage hole': pick(['yes', 'no']),
        Handmade: pick(['yes', 'no']),
        Care: 'Wipe clean.',
        State: 'selling',
        Page:
          fault > 0.94 && fault < 0.95
            ? `/goods/g-${family}-${i}`
            : `https://shop.mosswick.example/goods/g-${family}-${i}`,
        Picture: `bw-1042-${pick(['moss', 'chalk', 'ochre', 'slate'])}.jpg`,
      };
      yield `${columns.map((column) => cells[column]).join('\t')}\n`;
    }
  }
}

export async function writeGenerated(path: string, count: number): Promise<void> {
  await pipeline(Readable.from(generateRows(count)), createWriteStream(path));
}
