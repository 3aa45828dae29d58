/**
 * A labelled set of three trades that are not the demo's: tools, clothes, groceries. Pairs of records that share a key, of which
 * somebody said whether they are the same goods. Of those joined, at most one in 200 may be wrong, and none silently; nine in
 * ten of the true ones must be joined all the same.
 */
import { describe, expect, it } from 'vitest';
import { checkDigit } from '../values/index.js';
import { type Described, type JoinRecord, joinRecords, readCondition, readPack, readTraits } from './index.js';

interface Goods {
  title: string;
  also?: string;
  brand?: string;
  mpn?: string;
  gtin?: string;
  options?: [string, string][];
}

const gtin = (n: number) => {
  const body = `73102${String(n).padStart(7, '0')}`;
  return body + checkDigit(body);
};
const inside = (n: number) => {
  const body = `20417${String(n).padStart(7, '0')}`;
  return body + checkDigit(body);
};

/** Ours, theirs: by GTIN where `by` says so, else by brand and MPN. */
type Pair = [by: 'gtin' | 'mpn' | 'inside', ours: Omit<Goods, 'gtin' | 'mpn'>, theirs: Omit<Goods, 'gtin' | 'mpn'>];

const same: Pair[] = [
  ['gtin', { title: 'Masonry drill bit 8 mm', brand: 'Torvane' }, { title: 'Steinbohrer 8mm SDS', brand: 'TORVANE' }],
  ['gtin', { title: 'Masonry drill bit 8 mm', brand: 'Torvane' }, { title: 'Betongborr 8 mm', brand: 'Torvane' }],
  ['mpn', { title: 'Hammer 500 g', brand: 'Torvane' }, { title: 'Schlosserhammer 0,5 kg', brand: 'Torvane' }],
  [
    'mpn',
    { title: 'Hex key set, 9 pieces', brand: 'Torvane' },
    { title: 'Sechskantschlüssel-Satz 9-teilig', brand: 'Torvane' },
  ],
  [
    'gtin',
    { title: 'Wood screws 4 x 40 mm, box of 200', brand: 'Haldrup' },
    { title: 'Holzschrauben 4x40 200 Stück', brand: 'Haldrup' },
  ],
  [
    'gtin',
    { title: 'Wood screws 4 x 40 mm', brand: 'Haldrup' },
    { title: 'Träskruv 4x40 mm 200 st', brand: 'Haldrup AB' },
  ],
  [
    'mpn',
    { title: 'Cordless drill 18 V', brand: 'Kestor' },
    { title: 'Akku-Bohrschrauber 18V', brand: 'Kestor Tools' },
  ],
  ['mpn', { title: 'Circular saw blade 190 mm', brand: 'Kestor' }, { title: 'Kreissägeblatt 190mm', brand: 'Kestor' }],
  ['gtin', { title: 'Tape measure 5 m', brand: 'Torvane' }, { title: 'Bandmaß 5m', brand: 'Torvane' }],
  ['gtin', { title: 'Spirit level 60 cm', brand: 'Torvane' }, { title: 'Wasserwaage 600 mm', brand: 'Torvane' }],
  ['mpn', { title: 'Pipe wrench 14"', brand: 'Kestor' }, { title: 'Rohrzange 14 Zoll', brand: 'Kestor' }],
  ['gtin', { title: 'Work gloves, size 9', brand: 'Haldrup' }, { title: 'Arbeitshandschuhe Gr. 9', brand: 'Haldrup' }],
  [
    'gtin',
    { title: 'Merino jumper, navy, size M', brand: 'Alderbeck' },
    { title: 'Merinopullover marine Gr. M', brand: 'Alderbeck' },
  ],
  [
    'gtin',
    { title: 'Merino jumper navy', brand: 'Alderbeck', options: [['size', 'XXL']] },
    { title: 'Merinopullover 2XL', brand: 'Alderbeck' },
  ],
  [
    'mpn',
    { title: 'Rain jacket red', brand: 'Alderbeck', options: [['Size', 'L']] },
    { title: 'Regenjacke rot', brand: 'Alderbeck', options: [['Größe', 'L']] },
  ],
  ['mpn', { title: 'Wool socks, 2 pairs', brand: 'Fjellund' }, { title: 'Ullstrumpor 2-pack', brand: 'Fjellund' }],
  [
    'gtin',
    { title: 'Leather belt 95 cm black', brand: 'Alderbeck' },
    { title: 'Ledergürtel schwarz 95cm', brand: 'Alderbeck' },
  ],
  [
    'gtin',
    { title: 'Canvas shoe white size 42', brand: 'Fjellund' },
    { title: 'Tygsko vit stl 42', brand: 'Fjellund' },
  ],
  ['gtin', { title: 'Linen shirt', brand: 'Alderbeck' }, { title: 'Leinenhemd, natur', brand: 'Alderbeck' }],
  ['mpn', { title: 'Beanie grey', brand: 'Fjellund' }, { title: 'Mössa grå', brand: 'Fjellund' }],
  ['gtin', { title: 'Scarf 180 cm', brand: 'Fjellund' }, { title: 'Schal 1,8 m', brand: 'Fjellund' }],
  ['gtin', { title: 'Oat drink 1 l', brand: 'Havrevik' }, { title: 'Haferdrink 1 Liter', brand: 'Havrevik' }],
  ['gtin', { title: 'Oat drink 1 l', brand: 'Havrevik' }, { title: 'Havredryck 100 cl', brand: 'Havrevik' }],
  [
    'gtin',
    { title: 'Rye crispbread 200 g', brand: 'Rugby Mill' },
    { title: 'Roggen-Knäckebrot 200g', brand: 'Rugby Mill' },
  ],
  [
    'gtin',
    { title: 'Sparkling water 6 x 500 ml', brand: 'Kallkilla' },
    { title: 'Mineralwasser 6 x 0,5 l', brand: 'Kallkilla' },
  ],
  [
    'gtin',
    { title: 'Sparkling water 6 x 500 ml', brand: 'Kallkilla' },
    { title: 'Kolsyrat vatten 6-pack 50 cl', brand: 'Kallkilla' },
  ],
  ['mpn', { title: 'Espresso beans 1 kg', brand: 'Nordrost' }, { title: 'Espressobohnen 1000 g', brand: 'Nordrost' }],
  ['gtin', { title: 'Green tea, 20 bags', brand: 'Nordrost' }, { title: 'Grüner Tee 20 Beutel', brand: 'Nordrost' }],
  ['gtin', { title: 'Olive oil 0.75 l', brand: 'Casa Lenta' }, { title: 'Olivenöl 750 ml', brand: 'Casa Lenta' }],
  ['gtin', { title: 'Sea salt 250 g', brand: 'Casa Lenta' }, { title: 'Havssalt', brand: 'Casa Lenta' }],
  [
    'mpn',
    { title: 'Kettle 1.7 l black', brand: 'Nordrost' },
    { title: 'Wasserkocher schwarz 1,7 l', brand: 'Nordrost' },
  ],
  ['gtin', { title: 'Frying pan 28 cm', brand: 'Nordrost' }, { title: 'Bratpfanne 28cm', brand: 'Nordrost' }],
  ['inside', { title: 'Market apron green', brand: 'Alderbeck' }, { title: 'Schürze grün', brand: 'Alderbeck' }],
  ['inside', { title: 'Honey from the moor 500 g' }, { title: 'Moor honey jar 500 g' }],
  ['gtin', { title: 'Garden hose 20 m', brand: 'Kestor' }, { title: 'Gartenschlauch 20m', brand: 'Kestor' }],
  ['mpn', { title: 'LED bulb 8 W', brand: 'Kestor' }, { title: 'LED-Lampe 8W', brand: 'Kestor' }],
];

const unlike: Pair[] = [
  [
    'gtin',
    { title: 'Masonry drill bit 8 mm', brand: 'Torvane' },
    { title: 'Masonry drill bit 10 mm', brand: 'Torvane' },
  ],
  [
    'mpn',
    { title: 'Wood screws 4 x 40 mm, box of 200', brand: 'Haldrup' },
    { title: 'Wood screws 4 x 40 mm, box of 50', brand: 'Haldrup' },
  ],
  [
    'mpn',
    { title: 'Cordless drill 18 V', brand: 'Kestor' },
    { title: 'Cordless drill 18 V, refurbished', brand: 'Kestor' },
  ],
  [
    'gtin',
    { title: 'Cordless drill 18 V', brand: 'Kestor' },
    { title: 'Akku-Bohrschrauber 18 V gebraucht', brand: 'Kestor' },
  ],
  ['gtin', { title: 'Hammer 500 g', brand: 'Torvane' }, { title: 'Hammer 500 g', brand: 'Brammer' }],
  ['gtin', { title: 'Garden hose 20 m', brand: 'Kestor' }, { title: 'Olive oil 750 ml', brand: 'Casa Lenta' }],
  ['gtin', { title: 'Spirit level 60 cm', brand: 'Torvane' }, { title: 'Spirit level 120 cm', brand: 'Torvane' }],
  [
    'mpn',
    { title: 'Circular saw blade 190 mm', brand: 'Kestor' },
    { title: 'Circular saw blade 7 1/4 in', brand: 'Kestor' },
  ],
  ['gtin', { title: 'Work gloves, size 9', brand: 'Haldrup' }, { title: 'Work gloves, size 11', brand: 'Haldrup' }],
  [
    'gtin',
    { title: 'Merino jumper, navy, size M', brand: 'Alderbeck' },
    { title: 'Merino jumper, navy, size XL', brand: 'Alderbeck' },
  ],
  ['gtin', { title: 'Rain jacket red', brand: 'Alderbeck' }, { title: 'Regenjacke blau', brand: 'Alderbeck' }],
  [
    'mpn',
    { title: 'Rain jacket', brand: 'Alderbeck', options: [['size', 'L']] },
    { title: 'Rain jacket', brand: 'Alderbeck', options: [['size', 'S']] },
  ],
  ['mpn', { title: 'Wool socks, 2 pairs', brand: 'Fjellund' }, { title: 'Ullstrumpor 5-pack', brand: 'Fjellund' }],
  [
    'gtin',
    { title: 'Canvas shoe white size 42', brand: 'Fjellund' },
    { title: 'Canvas shoe white size 39', brand: 'Fjellund' },
  ],
  [
    'gtin',
    { title: 'Leather belt 95 cm black', brand: 'Alderbeck' },
    { title: 'Ledergürtel braun 95 cm', brand: 'Alderbeck' },
  ],
  ['gtin', { title: 'Oat drink 1 l', brand: 'Havrevik' }, { title: 'Oat drink 250 ml', brand: 'Havrevik' }],
  [
    'gtin',
    { title: 'Sparkling water 6 x 500 ml', brand: 'Kallkilla' },
    { title: 'Sparkling water 24 x 500 ml', brand: 'Kallkilla' },
  ],
  ['gtin', { title: 'Espresso beans 1 kg', brand: 'Nordrost' }, { title: 'Espresso beans 250 g', brand: 'Nordrost' }],
  ['mpn', { title: 'Kettle 1.7 l', brand: 'Nordrost' }, { title: 'Kettle 1 l', brand: 'Nordrost' }],
  ['gtin', { title: 'LED bulb 8 W', brand: 'Kestor' }, { title: 'LED-Lampe 15W', brand: 'Kestor' }],
  [
    'gtin',
    { title: 'Frying pan 28 cm', brand: 'Nordrost' },
    { title: 'Frying pan 28 cm, damaged box', brand: 'Nordrost' },
  ],
  [
    'gtin',
    { title: 'Frying pan 28 cm', brand: 'Nordrost' },
    { title: 'Bratpfanne 28 cm, Ausstellungsstück', brand: 'Nordrost' },
  ],
  ['inside', { title: 'Market apron green', brand: 'Alderbeck' }, { title: 'Chain oil', brand: 'Kestor' }],
  ['inside', { title: 'Honey from the moor' }, { title: 'Torque wrench' }],
  ['inside', { title: 'Socks' }, { title: 'Gehörschutz' }],
];

let next = 1;
function recordsOf([by, ours, theirs]: Pair): JoinRecord[] {
  const n = next++;
  const code = by === 'gtin' ? gtin(n) : by === 'inside' ? inside(n) : undefined;
  return [ours, theirs].map((goods, i): JoinRecord => {
    const described: Described = {
      values: {
        [`title@${i === 0 ? 'en-GB' : 'de-DE'}`]: goods.title,
        ...(goods.brand ? { brand: goods.brand } : {}),
        ...(by === 'mpn' ? { mpn: `M-${n}` } : {}),
        ...(code ? { gtin: code } : {}),
      },
      options: goods.options,
    };
    return {
      id: 2 * n + i,
      source: i + 1,
      keys: code ? { gtin: code.padStart(14, '0') } : { mpn: `brand/m${n}` },
      traits: readTraits(described),
    };
  });
}

describe('records that share a key', () => {
  const judged = (pairs: readonly Pair[]) => pairs.map((pair) => ({ pair, ...joinRecords(recordsOf(pair)) }));
  const name = ({ pair: [by, ours, theirs] }: { pair: Pair }) => `${by}: ${ours.title} | ${theirs.title}`;

  it('of the same goods are joined in nine of ten cases at least', () => {
    const missed = judged(same).filter(({ components }) => components.length > 1);
    expect(
      missed.length,
      missed.map((row) => `${name(row)}: ${row.proposals[0]?.against?.join()}`).join('\n'),
    ).toBeLessThanOrEqual(same.length / 10);
  });
  it('of other goods are not joined, and each is proposed with what speaks against it', () => {
    const wrong = judged(unlike).filter(({ components }) => components.length === 1);
    expect(wrong.map(name)).toEqual([]);
    for (const { proposals } of judged(unlike)) {
      expect(proposals).toHaveLength(1);
      expect(['contradicted', 'alone']).toContain(proposals[0]?.reason);
    }
  });
  it('and that a person has joined stay joined, whatever they say', () => {
    for (const pair of unlike) {
      const [a, b] = recordsOf(pair) as [JoinRecord, JoinRecord];
      const { components } = joinRecords([a, b], [{ a: a.id, b: b.id, verdict: 'same' }]);
      expect(components).toHaveLength(1);
    }
  });
  it('join the two that agree where a third does not', () => {
    const [a, b] = recordsOf(same[0] as Pair) as [JoinRecord, JoinRecord];
    const odd = {
      ...a,
      id: 900,
      source: 9,
      traits: readTraits({ values: { 'title@en-GB': 'Masonry drill bit 12 mm', brand: 'Torvane' } }),
    };
    expect(joinRecords([a, b, odd]).components).toEqual([[a.id, b.id], [900]]);
  });
  it('for use inside a company join where a person says that the source uses our numbers', () => {
    const pair = recordsOf(unlike.at(-1) as Pair).map((record) => ({ ...record, usesOurNumbers: true }));
    expect(joinRecords(pair).components).toHaveLength(1);
  });
  it('made of zeros, or of one sign again and again, join nothing', () => {
    for (const keys of [
      { gtin: '00000000000000' },
      { mpn: 'torvane/000' },
      { mpn: 'torvane/na' },
      { gtin: '11111111111111' },
    ])
      expect(
        joinRecords([
          { id: 1, source: 1, keys },
          { id: 2, source: 2, keys },
        ]).components,
      ).toHaveLength(2);
  });
});

describe('titles', () => {
  it.each([
    ['Pack of 6', 6],
    ['6er-Pack', 6],
    ['Kugelschreiber 10er Set', 10],
    ['Water 6 x 330 ml', 6],
    ['Servietten 20 Stück', 20],
    ['Ljus 4-pack', 4],
    ['Handskar 12 p', 12],
    ['Batteries x4', 4],
    ['Twin pack soap', 2],
    ['Eggs, a dozen', 12],
    ['Box 20 x 30 cm', undefined],
    ['Hammer 500 g', undefined],
    ['Model 6 radio', undefined],
  ])('“%s” is a pack of %s', (title, pieces) => expect(readPack(title)).toBe(pieces));
  it.each([
    ['Kettle, refurbished', 'refurbished'],
    ['Wasserkocher gebraucht', 'used'],
    ['Borr, begagnad', 'used'],
    ['Kettle open box', 'display'],
    ['Kettle', undefined],
    ['Unused stamps', undefined],
  ])('“%s” is %s', (title, condition) => expect(readCondition(title)).toBe(condition));
});
