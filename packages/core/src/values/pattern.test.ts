import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compilePattern } from './pattern.js';

const engineOf = (source: string) => {
  const read = compilePattern(source);
  return read.ok ? read.engine : 'refused';
};

describe('a pattern', () => {
  it.each(['^\\d{4}-\\d{2}-\\d{2}$', '^[A-Z]{2}\\d+$', 'abc', '[0-9]{3}-[0-9]{3}', '^(?:ab)c*$'])(
    '%s is proved cheap and runs natively',
    (source) => expect(engineOf(source)).toBe('native'),
  );
  it.each(['(a+)+$', '^(a|a)*$', '(\\w+\\s?)*!', '^a*a*a*b', '.*.*.*=', '^(?:x+x+)+y', '[a-z]+@[a-z]+'])(
    '%s runs in linear time, and does on a text made to hurt it',
    (source) => {
      const read = compilePattern(source);
      if (!read.ok) throw new Error(read.reason);
      expect(read.engine).toBe('linear');
      // A native engine takes longer than the universe for some of these: that it ends is what is tested.
      expect(read.test(`${'a'.repeat(5000)} ${'x'.repeat(5000)}`)).toBe(false);
    },
  );
  it.each([
    ['(?=a)b', 'linear time'],
    ['(a)\\1', 'linear time'],
    ['(', 'nterminated'],
    ['[', 'nterminated'],
    ['a{2,1}', 'out of order'],
    ['x'.repeat(501), '500 characters'],
  ])('%s is refused with its reason', (source, reason) => {
    const read = compilePattern(source);
    expect(read.ok ? '' : read.reason).toContain(reason);
  });
  it('says the same on either engine', () => {
    const atom = fc.constantFrom('a', 'b', '[ab]', '\\d', '.', '\\w', '\\p{L}', 'ü', '\\s', '\\.', '[^a]');
    const often = fc.constantFrom('', '', '?', '*', '+', '{2}', '{1,3}');
    const row = fc
      .array(fc.tuple(atom, often), { minLength: 1, maxLength: 5 })
      .map((parts) => parts.map(([row, times]) => row + times).join(''));
    const source = fc
      .tuple(fc.boolean(), fc.array(row, { minLength: 1, maxLength: 2 }), fc.boolean())
      .map(([start, rows, end]) => `${start ? '^' : ''}(?:${rows.join('|')})${end ? '$' : ''}`);
    const text = fc
      .array(fc.constantFrom('a', 'b', '1', ' ', 'ü', '.', '😀', '_'), { maxLength: 8 })
      .map((all) => all.join(''));
    fc.assert(
      fc.property(source, text, (pattern, on) => {
        const read = compilePattern(pattern);
        if (!read.ok) throw new Error(`${pattern}: ${read.reason}`);
        expect(read.test(on), `${pattern} on ${on}`).toBe(new RegExp(pattern, 'u').test(on));
      }),
    );
  });
});
