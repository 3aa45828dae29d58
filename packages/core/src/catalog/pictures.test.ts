import { describe, expect, it } from 'vitest';
import { type Pixels, groundOf, numbersIn, placeFiles } from './pictures.js';

type Paint = (x: number, y: number) => readonly number[];
const picture = (size: number, channels: number, paint: Paint): Pixels => {
  const data = new Uint8Array(size * size * channels);
  for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) data.set(paint(x, y), (y * size + x) * channels);
  return { data, width: size, height: size, channels };
};
const inside = (x: number, y: number, from: number, to: number) => x >= from && x < to && y >= from && y < to;
/** The same every time. */
const noise = (x: number, y: number) => (x * 7919 + y * 104_729) % 97;

describe('the ground of a picture', () => {
  it('is plain around goods, with the margin they leave', () => {
    const shot = picture(100, 3, (x, y) => (inside(x, y, 20, 80) ? [40, 90, 60] : [250, 249, 246]));
    expect(groundOf(shot)).toEqual({ plain: 100, blank: 20 });
  });

  it('is plain through the noise of compression, and not where a room is seen', () => {
    expect(groundOf(picture(100, 3, (x, y) => [240 + (noise(x, y) % 8), 240, 240])).plain).toBe(100);
    expect(groundOf(picture(100, 3, (x, y) => [noise(x, y) * 2, noise(y, x) * 2, x * 2])).plain).toBeLessThan(40);
  });

  it('has no margin where the goods touch an edge', () => {
    expect(groundOf(picture(100, 3, (x, y) => (x > 70 && y > 20 ? [0, 0, 0] : [255, 255, 255]))).blank).toBe(0);
  });

  it('is white where it is clear, and grey pictures have one as well', () => {
    const clear = picture(50, 4, (x, y) => (inside(x, y, 10, 40) ? [0, 0, 0, 255] : [9, 9, 9, 0]));
    expect(groundOf(clear)).toEqual({ plain: 100, blank: 20 });
    expect(groundOf(picture(50, 1, (x, y) => [inside(x, y, 10, 40) ? 0 : 200]))).toEqual({ plain: 100, blank: 20 });
  });

  it('is all of a picture of nothing', () => {
    expect(groundOf(picture(10, 3, () => [1, 2, 3]))).toEqual({ plain: 100, blank: 50 });
    expect(groundOf({ data: new Uint8Array(), width: 0, height: 0, channels: 3 })).toEqual({ plain: 0, blank: 0 });
  });
});

describe('files placed by their names', () => {
  const goods = new Map([
    ['msamb7113', [{ product: 1, number: 'MS-AMB71-13' }]],
    ['msamb71', [{ product: 2, number: 'MS-AMB71' }]],
    ['55521', [{ product: 3, number: '555.21' }]],
    [
      'twice9',
      [
        { product: 4, number: 'TWICE-9' },
        { product: 5, number: 'twice 9' },
      ],
    ],
  ]);
  const placed = (...names: string[]) =>
    placeFiles(names, goods).map(({ name, product, among }) => [name, product, among]);

  it('go to the longest number, whatever marks stand in it', () => {
    expect(placed('ms_amb71_13_front.jpg', 'MS-AMB71-16.jpg', 'photo 555-21 (2).PNG')).toEqual([
      ['ms_amb71_13_front.jpg', 1, 1],
      ['MS-AMB71-16.jpg', 2, 1],
      ['photo 555-21 (2).PNG', 3, 1],
    ]);
  });

  it('stay where nothing fits, and where two have the number', () => {
    expect(placed('holiday.jpg', 'twice-9.jpg')).toEqual([
      ['holiday.jpg', undefined, 0],
      ['twice-9.jpg', undefined, 2],
    ]);
  });

  it('come in the order of their names, figures as figures', () => {
    expect(placed('555.21_10.jpg', '555.21_9.jpg').map(([name]) => name)).toEqual(['555.21_9.jpg', '555.21_10.jpg']);
  });

  it('are not found inside other words, nor by two letters', () => {
    expect(numbersIn('xx/Some.Dir/AB_Tischlampe 12.jpeg')).toEqual([
      'abtischlampe12',
      'abtischlampe',
      'tischlampe12',
      'tischlampe',
    ]);
  });
});
