import { describe, expect, it } from 'vitest';
import type { Fill } from '../fills/index.js';
import { type PlaceSetup, type PlacedFill, askedIn, ownKind } from './index.js';
import { testPlace } from './fixtures.js';

const { rulebook } = testPlace('orrivane');
const [herbs, other] = rulebook.categories.map(({ path }) => path).filter((path) => !path.includes('/'));
const place = (fills: PlacedFill[]): PlaceSetup => testPlace('orrivane', { fills });
const copy = (from: string): Fill => ({ rule: { kind: 'copy', from }, fit: [] });
const asked = (fills: PlacedFill[], category?: string) =>
  new Map(askedIn(place(fills), category).map((each) => [each.attribute.key, each]));

describe('what a channel asks for', () => {
  it('is fed by what its fill reads, languages told, each once', () => {
    const compose: Fill = {
      rule: {
        kind: 'first',
        of: [copy('title').rule, { kind: 'compose', parts: [{ from: 'title' }, { from: 'brand' }] }],
      },
      fit: [],
    };
    expect(asked([{ attribute: 'short', fill: compose }]).get('short')?.feeding).toEqual([
      { attribute: 'title', language: 'en-GB' },
      { attribute: 'brand' },
    ]);
  });
  it('is told of the attribute one would edit, where a fact is read that is none', () => {
    expect(asked([{ attribute: 'view', fill: copy('mainPicture') }]).get('view')?.feeding).toEqual([
      { attribute: 'pictures' },
    ]);
  });
  it('is fed by nothing where it is fixed, not filled, or its source is not known', () => {
    const fixed: Fill = { rule: { kind: 'fixed', value: 'new' }, fit: [] };
    const found = asked([
      { attribute: 'short', fill: fixed },
      { attribute: 'long', fill: copy('no such thing') },
    ]);
    expect([found.get('short')?.fill, found.get('short')?.feeding]).toEqual([fixed, []]);
    expect(found.get('long')?.feeding).toEqual([]);
    expect(found.get('maker')?.fill).toBeUndefined();
  });
  it('goes by the fill of its own category before that of all', () => {
    const fills: PlacedFill[] = [
      { attribute: 'short', fill: copy('title') },
      { attribute: 'short', category: herbs, fill: copy('brand') },
    ];
    expect(asked(fills, herbs).get('short')?.feeding).toEqual([{ attribute: 'brand' }]);
    expect(asked(fills, other).get('short')?.feeding).toEqual([{ attribute: 'title', language: 'en-GB' }]);
  });
});

describe('an attribute of ours for a field of theirs', () => {
  const field = (change: object) => ({
    key: 'x',
    label: 'X',
    type: 'text' as const,
    need: 'optional' as const,
    limits: {},
    ...change,
  });
  it.each([
    [
      { type: 'measure', limits: { units: ['cm', 'mm'] } },
      { type: 'measure', dimension: 'length', values: [] },
    ],
    [{ type: 'measure' }, { type: 'text', dimension: null, values: [] }],
    [
      { limits: { values: ['a', 'b'] }, many: true },
      { type: 'choice', many: true, values: ['a', 'b'] },
    ],
    [{ type: 'choice' }, { type: 'text' }],
    [{ type: 'boolean' }, { type: 'boolean' }],
  ])('%j', (change, kind) => expect(ownKind(field(change))).toMatchObject(kind));
  it('is none for pictures and prices', () => {
    expect([ownKind(field({ type: 'picture' })), ownKind(field({ type: 'money' }))]).toEqual([undefined, undefined]);
  });
});
