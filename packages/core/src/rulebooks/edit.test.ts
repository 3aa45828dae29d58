import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { describe, expect, it } from 'vitest';
import { loadRulebook } from '../checks/index.js';
import {
  type AttributeChange,
  type ChannelAttribute,
  type Rulebook,
  askedFields,
  attributesFor,
  compareRulebooks,
  limitsOf,
  withChanges,
} from './index.js';

const loaded = loadRulebook(rulebooksOf('quernby')[0]);
if (!loaded.ok) throw new Error(loaded.faults.join());
const { rulebook } = loaded;
const market = rulebook.markets[0]?.key ?? '';
const leaf = 'green-rooms/pots-and-tubs/plant-pots';
const parent = 'green-rooms/pots-and-tubs';

const made = (...changes: AttributeChange[]): Rulebook => {
  const changed = withChanges(rulebook, { version: 'next', validFrom: '2030-01-01', changes });
  if (!changed.ok) throw new Error(changed.faults.join());
  return changed.rulebook;
};
const at = (of: Rulebook, key: string, category?: string): ChannelAttribute | undefined =>
  (category === undefined ? of.attributes : attributesFor(of, category, market)).find((each) => each.key === key);
const faults = (...changes: AttributeChange[]): string[] => {
  const changed = withChanges(rulebook, { version: 'next', validFrom: '2030-01-01', changes });
  if (!changed.ok) return changed.faults;
  const again = loadRulebook(changed.rulebook);
  return again.ok ? [] : again.faults;
};

describe('small things said anew', () => {
  it('make a further version that differs in them and in nothing else', () => {
    const next = made({ attribute: 'heading', limits: { maxLength: 75 } });
    expect([next.version, next.validFrom]).toEqual(['next', '2030-01-01']);
    expect(compareRulebooks(rulebook, next).map(({ key, kind, words }) => [key, kind, words])).toEqual([
      ['heading', 'tightened', ['longest length now 75, was 90']],
    ]);
    expect(rulebook.attributes.find(({ key }) => key === 'heading')?.limits.maxLength).toBe(90);
  });
  it('take a limit away with null, and leave what is not said', () => {
    const next = made({ attribute: 'heading', limits: { maxLength: null }, need: 'recommended' });
    expect(at(next, 'heading')).toMatchObject({ need: 'recommended' });
    expect(at(next, 'heading')?.limits).not.toHaveProperty('maxLength');
    expect(at(made({ attribute: 'heading', need: 'optional' }), 'heading')?.limits.maxLength).toBe(90);
  });
  it('hold in one category and all below it, whatever was said above it', () => {
    const next = made(
      { attribute: 'heading', in: parent, limits: { maxLength: 60 } },
      { attribute: 'heading', in: leaf, limits: { maxLength: 40 }, need: 'optional' },
    );
    expect(at(next, 'heading', leaf)).toMatchObject({ need: 'optional', limits: { maxLength: 40 } });
    expect(at(next, 'heading', `${parent}/saucers`)).toMatchObject({ need: 'required', limits: { maxLength: 60 } });
    expect(at(next, 'heading', 'rooms/lamps')?.limits.maxLength).toBe(90);
    // Said once more it is said in place of that.
    const again = withChanges(next, {
      ...{ version: 'third', validFrom: '2030-01-01' },
      changes: [{ attribute: 'heading', in: leaf, limits: { maxLength: 30 } }],
    });
    const held = again.ok ? at(again.rulebook, 'heading')?.overrides?.filter((each) => each.in[0] === leaf) : [];
    expect(held).toEqual([{ in: [leaf], need: 'optional', limits: { maxLength: 30 } }]);
  });
  it('give a closed list, each value once', () => {
    const next = made({ attribute: 'make', values: ['Ash', 'Oak', 'Ash'] });
    expect(at(next, 'make')?.limits.values).toEqual(['Ash', 'Oak']);
  });
  it('are refused where there is no such thing, or nothing could meet them', () => {
    expect(faults({ attribute: 'moon', need: 'optional' })).toEqual(['There is no attribute “moon”']);
    expect(faults({ attribute: 'heading', in: 'no/such' })).toEqual(['There is no category “no/such”']);
    expect(faults({ attribute: 'heading', in: leaf, limits: { maxLength: null } })[0]).toContain('everywhere');
    expect(faults({ attribute: 'heading', limits: { minLength: 50, maxLength: 40 } })).toEqual([
      'attributes.heading.limits: minLength 50 is above maxLength 40',
    ]);
    expect(faults({ attribute: 'heading', in: leaf, limits: { minLength: 91 } })).toEqual([
      expect.stringMatching(/^attributes.heading.overrides.\d+.limits: minLength 91 is above maxLength 90$/),
    ]);
    expect(faults({ attribute: 'heading', limits: { maxLength: 2.5 } })[0]).toContain('maxLength');
  });
});

describe('a rulebook that is read', () => {
  it('has what is asked of all goods, with where it is otherwise; or what one category is asked', () => {
    const whole = askedFields(rulebook, undefined, market);
    expect(whole).toHaveLength(rulebook.attributes.length);
    expect(whole.some(({ elsewhere }) => elsewhere.length > 0)).toBe(true);
    const inOne = askedFields(rulebook, leaf, market).map(({ attribute }) => attribute.key);
    expect(inOne).toEqual(attributesFor(rulebook, leaf, market).map(({ key }) => key));
    expect(inOne.length).toBeLessThan(whole.length);
    expect(askedFields(rulebook, undefined, 'nowhere').length).toBeLessThanOrEqual(whole.length);
  });
  it('knows the limits that mean something for a type', () => {
    expect(limitsOf({ type: 'text', many: true })).toEqual([
      'minLength',
      'maxLength',
      'maxBytes',
      'minCount',
      'maxCount',
    ]);
    expect(limitsOf({ type: 'measure' })).toEqual(['min', 'max']);
    expect(limitsOf({ type: 'picture' })).toEqual(['minCount', 'maxCount', 'minWidth', 'minHeight']);
    expect(limitsOf({ type: 'choice', limits: { maxLength: 9 } })).toEqual(['maxLength']);
    expect(limitsOf({ type: 'money' })).toEqual([]);
  });
});
