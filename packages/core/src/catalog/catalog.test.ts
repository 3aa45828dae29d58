import fc from 'fast-check';
import { expect, it } from 'vitest';
import { completeness, familyTitle, readOptions } from './index.js';

it('finds what the titles of a family share', () => {
  expect(
    familyTitle(['16 cm Gorsel pot ring in soot', 'Gorsel pot ring, 16 cm, Chalk', 'Chalk Gorsel pot ring – 22 cm']),
  ).toBe('Gorsel pot ring');
  expect(familyTitle(['Anise basil ‘Suvanne’, 250', 'Anise basil ‘Suvanne’, 60'])).toBe('Anise basil ‘Suvanne’');
  expect(familyTitle(["Pot 'Moss Rim'", "Pot 'Moss Edge'"])).toBe('Pot Moss');
  expect(familyTitle(['Moss', 'Slate'])).toBeUndefined();
  expect(familyTitle(['Blanket Hart, 130 x 180 cm, 1.2 kg'])).toBe('Blanket Hart');
  expect(familyTitle(['Light bar 4 ft', 'Light bar 2 ft'])).toBe('Light bar');
});

it('reads option axes', () => {
  expect(readOptions('diameter: 12 cm | glaze: Moss')).toEqual([
    ['diameter', '12 cm'],
    ['glaze', 'Moss'],
  ]);
  expect(readOptions('nothing')).toEqual([]);
});

it('a family title holds only words that nearly all of its titles hold', () => {
  const word = fc.constantFrom('Hollin', 'Tarn', 'pot', 'planter', 'moss', 'chalk', '12', 'cm', '‘Ombrel’', '–');
  const title = fc.array(word, { minLength: 1, maxLength: 6 }).map((words) => words.join(' '));
  fc.assert(
    fc.property(fc.array(title, { minLength: 1, maxLength: 8 }), (titles) => {
      const letters = (text: string): string[] => text.toLowerCase().match(/\p{L}+/gu) ?? [];
      for (const letter of letters(familyTitle(titles) ?? '')) {
        const having = titles.filter((other) => letters(other).includes(letter)).length;
        expect(having / titles.length).toBeGreaterThanOrEqual(0.8);
      }
    }),
  );
});

it('counts how complete goods are: eight parts, of which one is either identifier', () => {
  const has = (...slots: string[]) => ({ role: (slot: string) => slots.includes(slot), attribute: () => false });
  expect(completeness(has())).toBe(0);
  expect(completeness(has('title'))).toBe(13);
  expect(completeness(has('gtin', 'mpn'))).toBe(13);
  const all = ['title', 'description', 'brand', 'category', 'pictures', 'price', 'weight'];
  expect(completeness(has(...all))).toBe(88);
  expect(completeness(has(...all, 'mpn'))).toBe(100);
});

it('counts what a category requires, and nothing else, where it says so', () => {
  const has = { role: () => true, attribute: (key: string) => key === 'glaze' };
  expect(completeness(has, ['glaze'])).toBe(100);
  expect(completeness(has, ['glaze', 'diameter', 'height'])).toBe(33);
  expect(completeness(has, [])).toBe(100);
});

it('reads option axes however they are spaced, and leaves what is no axis', () => {
  const axis = fc.stringMatching(/^[a-z]{1,8}$/);
  const value = fc.stringMatching(/^[A-Za-z0-9]{1,6}( [A-Za-z0-9]{1,4})?$/);
  fc.assert(
    fc.property(fc.array(fc.tuple(axis, value), { maxLength: 4 }), fc.constantFrom('|', ' | ', '|  '), (axes, bar) => {
      expect(readOptions(axes.map(([name, text]) => `${name}: ${text}`).join(bar))).toEqual(axes);
    }),
  );
  expect(readOptions('size: 3:4 | : nothing |  | glaze')).toEqual([['size', '3:4']]);
});
