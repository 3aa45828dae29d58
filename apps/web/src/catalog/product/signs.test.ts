import { describe, expect, it } from 'vitest';
import { signsOf } from './signs';

const signs = (...names: string[]) => [...signsOf(names.map((place, placeId) => ({ place, placeId }))).values()];

describe('signs of places', () => {
  it('are one letter where that tells them apart', () => {
    expect(signs('Quernby GB', 'Orrivane GB', 'Tansel DE')).toEqual(['Q', 'O', 'T']);
  });
  it('are as many as it takes, of their words first', () => {
    expect(signs('Quernby Britain', 'Quernby Germany', 'Quill')).toEqual(['QB', 'QG', 'Qu']);
  });
  it('are the whole name where one begins with the other', () => {
    expect(signs('Ö', 'Öl')).toEqual(['Ö', 'Öl']);
  });
});
