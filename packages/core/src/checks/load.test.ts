import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { describe, expect, it } from 'vitest';
import { loadRulebook } from './index.js';

const whole = rulebooksOf('orrivane').at(1) as { rules: object[] };
const faults = (...rules: object[]) => {
  const read = loadRulebook({ ...whole, rules });
  return read.ok ? [] : read.faults;
};

describe('the settings of checks in a rulebook', () => {
  it('are read by the check they are for', () => expect(faults(...whole.rules)).toEqual([]));
  it('may stand several times for one check', () =>
    expect(
      faults(
        { check: 'sales-talk', attributes: ['short'], phrases: ['best price'] },
        { check: 'sales-talk', attributes: ['long'], phrases: ['bargain'] },
      ),
    ).toEqual([]));
  it.each([
    [{ check: 'no-such-check' }, 'rules.0.check: there is no check “no-such-check” that takes settings'],
    [{ check: 'max-length', limit: 3 }, 'rules.0.check: there is no check “max-length” that takes settings'],
    [{ check: 'capitals', attributes: 'short' }, 'rules.0.attributes: '],
    [{ check: 'capitals', attributes: ['short'], loud: true }, 'rules.0: '],
    [{ check: 'capitals', attributes: ['nothing'] }, 'rules.capitals: there is no attribute “nothing”'],
    [
      { check: 'told-by', least: 1, ways: [{ name: 'a code', all: ['own'], any: ['code'] }] },
      'rules.told-by: there is no attribute “code”',
    ],
    [
      { check: 'variant-axis', group: 'kin', axes: [], overrides: [{ in: ['lighting'], axes: ['glow'] }] },
      'rules.variant-axis: there is no attribute “glow”',
    ],
  ])('%j is refused, and it says where', (rule, start) => {
    const [fault, ...others] = faults(rule);
    expect(fault?.startsWith(start), fault).toBe(true);
    expect(others).toEqual([]);
  });
});
