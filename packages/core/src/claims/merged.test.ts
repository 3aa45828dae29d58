import { describe, expect, it } from 'vitest';
import { type Value, mapListed } from '../values/index.js';
import { currentSlot, currentSlots } from './index.js';

const merged = new Map([
  ['coating', { into: 'glaze', read: (value: Value) => mapListed(value, (key) => (key === 'red' ? 'rot' : key)) }],
  ['headline', { into: 'title', read: (value: Value) => value }],
]);

describe('what is said of attributes that were made one', () => {
  it('is told by the one that is left, language by language', () => {
    expect(currentSlot('headline@sv', merged)).toBe('title@sv');
    expect(currentSlot('coating', merged)).toBe('glaze');
    expect(currentSlot('weight', merged)).toBe('weight');
  });
  it('goes by the list of the one that is left, each value once', () => {
    expect(currentSlots({ coating: 'red' }, merged)).toEqual({ glaze: 'rot' });
    expect(currentSlots({ coating: ['red', 'rot', 'blue'] }, merged)).toEqual({ glaze: ['rot', 'blue'] });
    expect(currentSlots({ coating: 3 }, merged)).toEqual({ glaze: 3 });
  });
  it('gives way to what the one that is left says itself', () => {
    expect(currentSlots({ glaze: 'moss', coating: 'red' }, merged)).toEqual({ glaze: 'moss' });
    expect(currentSlots({ coating: 'red', glaze: 'moss' }, merged)).toEqual({ glaze: 'moss' });
  });
});
