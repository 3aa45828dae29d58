import { expect, it } from 'vitest';
import { familyTitle, readOptions } from './index.js';

it('finds what the titles of a family share', () => {
  expect(
    familyTitle(['16 cm Gorsel pot ring in soot', 'Gorsel pot ring, 16 cm, Chalk', 'Chalk Gorsel pot ring – 22 cm']),
  ).toBe('Gorsel pot ring');
  expect(familyTitle(['Anise basil ‘Suvanne’, 250', 'Anise basil ‘Suvanne’, 60'])).toBe('Anise basil ‘Suvanne’');
  expect(familyTitle(["Pot 'Moss Rim'", "Pot 'Moss Edge'"])).toBe('Pot Moss');
  expect(familyTitle(['Moss', 'Slate'])).toBeUndefined();
});

it('reads option axes', () => {
  expect(readOptions('diameter: 12 cm | glaze: Moss')).toEqual([
    ['diameter', '12 cm'],
    ['glaze', 'Moss'],
  ]);
  expect(readOptions('nothing')).toEqual([]);
});
