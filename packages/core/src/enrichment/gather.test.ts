import { describe, expect, it } from 'vitest';
import { type Titled, gatherAsOne, gatherFamilies } from './gather.js';

/** `Shirt ‹Colour:red› ‹Size:M›`: what is between the marks is found as a value of the axis. */
function titled(id: number, marked: string, more: Partial<Titled> = {}): Titled {
  const found: { axis: string; value: string; start: number; end: number }[] = [];
  let title = '';
  for (const [part, , axis, value] of marked.matchAll(/(‹(\p{L}+):([^›]+)›|[^‹]+)/gu)) {
    const text = value ?? part;
    if (axis && value) found.push({ axis, value, start: title.length, end: title.length + value.length });
    title += text;
  }
  return { id, title, codes: [], found, brand: 'Arbelow', category: 'shirts', ...more };
}
const gathered = (...marked: string[]) => gatherFamilies(marked.map((text, i) => titled(i + 1, text)));
const all = (list: Titled[]) => gatherFamilies(list);

describe('families from titles', () => {
  it('are told apart by what the titles say of attributes, wherever it stands', () => {
    expect(
      gathered(
        'Linen shirt ‹Colour:red›, ‹Size:M›',
        '‹Colour:Blue› linen shirt ‹Size:M›',
        'Linen shirt ‹Size:L› ‹Colour:red›',
      ),
    ).toEqual([
      {
        axes: ['Colour', 'Size'],
        members: [
          { id: 1, values: ['red', 'M'] },
          { id: 2, values: ['Blue', 'M'] },
          { id: 3, values: ['red', 'L'] },
        ],
      },
    ]);
  });

  it('are told apart by what they have anyway, whether their titles say it or not', () => {
    const held = (glaze: string, size: string) => [
      { axis: 'glaze', value: glaze },
      { axis: 'Size', value: size },
    ];
    const goods = [
      titled(1, 'Ferrin pot in sea moss, 12 cm', { held: held('Sea Moss', '12 cm') }),
      titled(2, '16 cm Ferrin pot in plum', { held: held('Plum', '16 cm') }),
      titled(3, 'Ferrin pot in plum, 12 cm', { held: held('Plum', '12 cm') }),
    ];
    expect(all(goods)).toEqual([
      {
        axes: ['glaze', 'Size'],
        members: [
          { id: 1, values: ['Sea Moss', '12 cm'] },
          { id: 2, values: ['Plum', '16 cm'] },
          { id: 3, values: ['Plum', '12 cm'] },
        ],
      },
    ]);
  });

  it('have no axis that says what another says already', () => {
    const goods = ['red', 'blue', 'red', 'grey'].map((colour, i) =>
      titled(i + 1, `Linen shirt ‹Size:${['S', 'M', 'L', 'XL'][i] ?? ''}›`, {
        held: [
          { axis: 'Width', value: `${i} cm` },
          { axis: 'Colour', value: colour },
        ],
      }),
    );
    expect(all(goods)[0]?.axes).toEqual(['Colour', 'Size']);
    const own = goods.map((good) => ({
      ...good,
      held: [{ axis: 'Fit', value: `${good.id}`, isOption: true }, ...(good.held ?? [])],
    }));
    expect(all(own)[0]?.axes).toEqual(['Fit', 'Colour']);
  });

  it('are told apart by words before figures, and by as few as do, whatever the unit', () => {
    const goods = ['moss', 'chalk', 'soot'].flatMap((glaze, i) =>
      [10, 12].map((size, j) =>
        titled(2 * i + j + 1, `Hollin pot ‹Diameter:${size} cm›`, {
          held: [
            ...[`${size * 37 + i} g`, `0.${size}${i} kg`].slice(j, j + 1).map((value) => ({
              ...{ axis: 'Weight', value, rank: 'measured' as const },
            })),
            { axis: 'Glaze', value: glaze, rank: 'written' },
            { axis: 'Height', value: `${size - 1} cm`, rank: 'measured' },
          ],
        }),
      ),
    );
    expect(all(goods)[0]).toMatchObject({ axes: ['Glaze', 'Diameter'] });
    expect(all(goods)[0]?.members).toHaveLength(6);
    const weighed = ['540 g', '0.54 kg', '1.2 kg'].map((value, i) =>
      titled(i + 1, 'Hollin pot stoneware', {
        held: [{ axis: 'Weight', value, key: i < 2 ? '0.54' : '1.2', rank: 'measured' }],
      }),
    );
    expect(all(weighed)[0]?.members.map(({ id }) => id)).toEqual([1, 3]);
  });

  it('have no axis of what all of them are', () => {
    expect(
      gathered('Vase ‹Colour:red› stoneware ‹Size:10 cm›', 'Vase ‹Colour:red› stoneware ‹Size:12 cm›')[0]?.axes,
    ).toEqual(['Size']);
  });

  it('give a combination once, and none where nothing tells them apart', () => {
    expect(
      gathered('Linen shirt ‹Size:M›', 'Linen shirt ‹Size:m›', 'Linen shirt ‹Size:L›')[0]?.members.map(({ id }) => id),
    ).toEqual([1, 3]);
    expect(gathered('Linen shirt', 'Linen shirt')).toEqual([]);
  });

  it('say where a title has no value', () => {
    expect(gathered('Linen shirt ‹Size:M›', 'Linen shirt')[0]?.members[1]).toEqual({ id: 2, values: [null] });
  });

  it.each([
    ['another maker', { brand: 'Birchan' }],
    ['another category', { category: 'jackets' }],
  ])('are never of %s', (_, more) => {
    expect(all([titled(1, 'Linen shirt ‹Size:M›'), titled(2, 'Linen shirt ‹Size:L›', more)])).toEqual([]);
  });

  it('are never of one word alone', () => {
    expect(gathered('Shirt ‹Size:M›', 'Shirt ‹Size:L›')).toEqual([]);
  });

  it('are not parted by article numbers in the titles', () => {
    const numbered = (id: number, code: string, size: string) =>
      titled(id, `Linen shirt ${code} ‹Size:${size}›`, { codes: [code.replace('-', '')] });
    expect(all([numbered(1, 'AB-100', 'M'), numbered(2, 'AB-101', 'L')])[0]?.members).toHaveLength(2);
  });

  it('are told apart by words no attribute knows, which somebody has to name', () => {
    expect(
      gathered(
        'Pillar candle lavender, long burning',
        'Pillar candle Rose Garden, long burning',
        'Pillar candle fig, long burning',
      ),
    ).toEqual([
      {
        axes: [''],
        members: [
          { id: 1, values: ['lavender'] },
          { id: 2, values: ['Rose Garden'] },
          { id: 3, values: ['fig'] },
        ],
      },
    ]);
  });

  it('want three where no attribute knows the words, and titles that share most of theirs', () => {
    expect(gathered('Pillar candle lavender', 'Pillar candle fig')).toEqual([]);
    expect(
      gathered(
        'Pillar candle ambertonevanillabourbon',
        'Pillar candle midsummernightsjasmine',
        'Pillar candle northernforestcedarwood',
      ),
    ).toEqual([]);
  });

  it('put each of the goods in one of them at most', () => {
    const found = gathered(
      'Tall pillar candle fig, boxed',
      'Tall pillar candle rose, boxed',
      'Tall pillar candle mint, boxed',
      'Tall pillar candle ivy, boxed',
      'Small pillar candle fig, boxed',
      'Wide pillar candle fig, boxed',
    );
    const ids = found.flatMap(({ members }) => members.map(({ id }) => id));
    expect(new Set(ids).size).toBe(ids.length);
    expect(found[0]?.members.map(({ id }) => id)).toEqual([1, 2, 3, 4]);
  });

  it('are found in other scripts', () => {
    expect(gathered('Льняная рубашка ‹Размер:М›', 'Льняная рубашка ‹Размер:Л›')[0]?.axes).toEqual(['Размер']);
  });

  it('are found among twenty thousand', () => {
    const many = Array.from({ length: 20_000 }, (_, i) =>
      titled(i, `Model ${Math.floor(i / 4)} garden lantern ‹Size:${i % 4} l›`),
    );
    expect(all(many)).toHaveLength(5000);
  });
});

describe('goods made one family by a person', () => {
  it('are told apart by their values where these do', () => {
    expect(gatherAsOne([titled(1, 'Shirt ‹Size:M›'), titled(2, 'Blouse ‹Size:L›')])).toEqual({
      axes: ['Size'],
      members: [
        { id: 1, values: ['M'] },
        { id: 2, values: ['L'] },
      ],
    });
  });

  it('are told apart by the words they do not share otherwise; those alike are in it, without', () => {
    expect(gatherAsOne([titled(1, 'Brush soft'), titled(2, 'Brush very hard'), titled(3, 'Brush soft')])).toEqual({
      axes: [''],
      members: [
        { id: 1, values: ['soft'] },
        { id: 2, values: ['very hard'] },
        { id: 3, values: [null] },
      ],
    });
  });
});
