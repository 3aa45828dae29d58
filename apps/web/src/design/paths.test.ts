import { describe, expect, it } from 'vitest';
import { readPaths } from './paths';

describe('a tree that is pasted', () => {
  it('is paths, one a line', () =>
    expect(readPaths('Home / Cups\nHome > Bowls\n\n  \nGarden')).toEqual([
      ['Home', 'Cups'],
      ['Home', 'Bowls'],
      ['Garden'],
    ]));
  it('or names set in below one another, by spaces or tabs, up again too', () =>
    expect(readPaths('Home\n  Cups\n    Large\n  Bowls\nGarden\n\tPots')).toEqual([
      ['Home'],
      ['Home', 'Cups'],
      ['Home', 'Cups', 'Large'],
      ['Home', 'Bowls'],
      ['Garden'],
      ['Garden', 'Pots'],
    ]));
  it('or nothing', () => expect(readPaths(' \n ')).toEqual([]));
});
