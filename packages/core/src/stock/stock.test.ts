import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shownStock } from './index.js';

describe('the stock a channel is shown', () => {
  it('is what is on hand without what is promised and kept back', () => {
    expect(shownStock({ onHand: 40, keptBack: 5 })).toBe(35);
    expect(shownStock({ onHand: 40, reserved: 3, keptBack: 5 })).toBe(32);
  });
  it('is never below nothing, and never more than is there', () => {
    fc.assert(
      fc.property(fc.integer({ min: -50, max: 500 }), fc.nat(100), fc.nat(100), (onHand, reserved, keptBack) => {
        const shown = shownStock({ onHand, reserved, keptBack });
        expect(shown).toBeGreaterThanOrEqual(0);
        expect(shown).toBeLessThanOrEqual(Math.max(0, onHand));
      }),
    );
  });
});
