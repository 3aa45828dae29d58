import { expect, it } from 'vitest';
import { compileSuggester } from './index.js';

const suggest = compileSuggester([
  { path: 'garden/seeds/herbs', names: ['Garden', 'Seeds', 'Herb seeds'], words: 'basil', isLeaf: true },
  { path: 'garden/seeds/salad', names: ['Garden', 'Seeds', 'Salad seeds'], words: '', isLeaf: true },
  { path: 'food/herbs', names: ['Food', 'Dried herbs'], words: '', isLeaf: true },
  { path: 'home/lamps', names: ['Home', 'Lamps'], words: '', isLeaf: true },
]);

it('ranks by words, titles and what was chosen before, and shows its evidence', () => {
  const found = suggest(
    {
      names: ['Seeds', 'Herbs'],
      titles: ['Basil seeds', 'Mint seeds'],
      neighbours: [
        {
          names: ['Seeds', 'Salad leaves'],
          chosen: 'garden/seeds/salad',
          chosenNames: ['Garden', 'Seeds', 'Salad seeds'],
        },
      ],
    },
    3,
  );
  expect(found[0]?.path).toBe('garden/seeds/herbs');
  expect(found[0]?.evidence.join()).toContain('herb');
  expect(found.some((categorySuggestion) => categorySuggestion.path === 'home/lamps')).toBe(false);
});
