import { describe, expect, it } from 'vitest';
import type { ChannelAttribute } from '../rulebooks/index.js';
import { type FillRule, carryFill } from './index.js';

const field = (change: Partial<ChannelAttribute> = {}): ChannelAttribute => ({
  key: 'shade',
  label: 'Shade',
  type: 'text',
  need: 'optional',
  limits: {},
  ...change,
});
const listed = field({ type: 'choice', limits: { values: ['Green', 'Off-white'] } });
const sources = new Set(['colour', 'glaze', 'title']);
const carry = (rule: FillRule, to = listed, fit: Parameters<typeof carryFill>[0]['fit'] = []) =>
  carryFill({ rule, fit }, to, sources);
const copy = (from: string): FillRule => ({ kind: 'copy', from });

describe('a fill carried to another attribute', () => {
  it('is as it was where all of it is taken', () =>
    expect(carry(copy('colour'))).toEqual({ fill: { rule: copy('colour'), fit: [] }, notes: [] }));
  it('is nothing where what it reads cannot be read, or its value is not on the list', () => {
    expect(carry(copy('secret')).fill).toBeUndefined();
    expect(carry({ kind: 'fixed', value: 'Blue' }).fill).toBeUndefined();
  });
  it('has values as that list writes them', () =>
    expect(carry({ kind: 'fixed', value: 'off white' }).fill?.rule).toEqual({ kind: 'fixed', value: 'Off-white' }));
  it('keeps the translations whose words are there, and counts the others', () => {
    const { fill, notes } = carry({
      kind: 'translate',
      from: 'glaze',
      table: { Moss: 'green', Sky: 'Blue', Chalk: 'Off-white' },
      otherwise: 'empty',
    });
    expect(fill?.rule).toMatchObject({ table: { Moss: 'Green', Chalk: 'Off-white' } });
    expect(notes).toEqual(['without 1 of 3 translations']);
  });
  it('keeps the alternatives and cases that are any good, and says what is gone', () => {
    const { fill, notes } = carry({ kind: 'first', of: [copy('secret'), copy('colour')] });
    expect(fill?.rule).toEqual({ kind: 'first', of: [copy('colour')] });
    expect(notes).toEqual(['without what reads secret']);
    const cases = (then: FillRule): FillRule => ({
      kind: 'when',
      cases: [{ if: { attribute: 'colour', op: 'isNotEmpty' }, then }],
      otherwise: copy('secret'),
    });
    expect(carry(cases(copy('colour'))).fill?.rule).toMatchObject({ otherwise: null });
    expect(carry(cases(copy('secret'))).fill).toBeUndefined();
    expect(carry({ kind: 'first', of: [{ kind: 'fixed', value: 'Blue' }, copy('colour')] }).notes).toEqual([
      'without “Blue”, which is not on its list',
    ]);
  });
  it('says nothing of what a case compares: that is not what is sent', () => {
    const compared: FillRule = {
      kind: 'when',
      cases: [{ if: { attribute: 'stock', op: 'atLeast', value: '1' }, then: copy('colour') }],
      otherwise: null,
    };
    expect(carry(compared)).toEqual({ fill: { rule: compared, fit: [] }, notes: [] });
  });
  it('has the steps of that attribute as it offers them, and none that do nothing there', () => {
    const long = field({ limits: { maxLength: 40 } });
    const { fill, notes } = carry(copy('title'), long, [{ do: 'trim-at-word', length: 110 }]);
    expect(fill?.fit).toEqual([{ do: 'trim-at-word', length: 40 }]);
    expect(notes).toEqual(['trimmed at a word to 40 characters']);
    expect(carry(copy('title'), field({ type: 'picture' }), [{ do: 'plain-text' }]).fill?.fit).toEqual([]);
  });
});
