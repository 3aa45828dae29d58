import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testAttribute } from './fixtures.js';
import {
  canonical,
  checkDigit,
  cleanMarkup,
  convertMeasure,
  foldText,
  makeMeasure,
  parseDecimal,
  parseMeasure,
  parseValue,
  plainStyle,
  plainText,
  readGtin,
  sortKeys,
} from './index.js';

const comma = { decimal: ',', dateOrder: 'dmy' } as const;
const attribute = testAttribute;

describe('numbers by locale', () => {
  it.each([
    ['1.234,5', comma, '1234.5'],
    ['10,0', comma, '10'],
    ['12.5', comma, '12.5'],
    ['1,234.50', plainStyle, '1234.5'],
    ['-4', plainStyle, '-4'],
    ['ca. 14', comma, '14'],
    ['0,00', comma, '0'],
    ['approx. 250', plainStyle, '250'],
  ] as const)('reads %s', (raw, style, value) => {
    expect(parseDecimal(raw, style)).toMatchObject({ ok: true, value });
  });
  it.each(['n/a', 'tbc', '-', '', '1.2.3'])('refuses %s', (raw) => expect(parseDecimal(raw, comma).ok).toBe(false));
  it('reads back every decimal it is given', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 0, max: 99 }), (whole, cents) => {
        const read = parseDecimal(`${whole},${String(cents).padStart(2, '0')}`, comma);
        return read.ok && Math.abs(Number(read.value) - (whole + (whole < 0 ? -1 : 1) * (cents / 100))) < 1e-6;
      }),
    );
  });
});

describe('measures', () => {
  it('takes the unit of the cell, else that of the column', () => {
    expect(parseMeasure('540 g', { ...comma, unit: 'kg' }, 'mass')).toMatchObject({
      ok: true,
      value: { amount: '540', unit: 'g', base: 0.54 },
    });
    expect(parseMeasure('0,37', { ...comma, unit: 'kg' }, 'mass')).toMatchObject({ ok: true, value: { base: 0.37 } });
    expect(parseMeasure('Ø 12 cm', comma, 'length')).toMatchObject({ ok: true, value: { amount: '12', unit: 'cm' } });
    expect(parseMeasure('5"', plainStyle, 'length')).toMatchObject({ ok: true, value: { unit: 'in', base: 0.127 } });
  });
  it('refuses a bare figure without a unit, and a unit of another dimension', () => {
    expect(parseMeasure('12', plainStyle, 'length').ok).toBe(false);
    expect(parseMeasure('12 kg', plainStyle, 'length').ok).toBe(false);
  });
  it('compares equal quantities in different units as equal', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 100_000 }),
        (n) => makeMeasure(String(n), 'mm').base === convertMeasure(makeMeasure(String(n), 'mm'), 'cm')?.base,
      ),
    );
  });
});

describe('GTINs', () => {
  it('makes lengths comparable as fourteen digits', () => {
    expect(readGtin('012345678905')).toMatchObject({ ok: true, gtin14: '00012345678905' });
    expect(readGtin('0012345678905')).toMatchObject({ ok: true, gtin14: '00012345678905' });
  });
  it('puts a lost leading zero back only where the check digit proves it', () => {
    expect(readGtin('1234565')).toMatchObject({ ok: true, written: '01234565' });
    expect(readGtin('1234567').ok).toBe(false);
  });
  it('recovers scientific notation where all digits are there, and refuses where they are gone', () => {
    expect(readGtin('2.104000004131E+12')).toMatchObject({ ok: true, written: '2104000004131' });
    expect(readGtin('2.30800E+12')).toMatchObject({ ok: false, fault: 'digits-lost' });
  });
  it('drops spaces, and names a wrong check digit', () => {
    expect(readGtin('2 104000 004131').ok).toBe(true);
    expect(readGtin('2104000004132')).toMatchObject({ ok: false, fault: 'check-digit' });
  });
  it('takes every number with its own check digit, and none with another', () => {
    fc.assert(
      fc.property(fc.bigInt({ min: 0n, max: 10n ** 12n - 1n }), fc.integer({ min: 1, max: 9 }), (n, off) => {
        const body = String(n).padStart(12, '0');
        const digit = checkDigit(body);
        const read = readGtin(body + digit);
        const isNone = !read.ok && ['placeholder', 'no-trade-item'].includes(read.fault);
        return (read.ok || isNone) && !readGtin(body + ((digit + off) % 10)).ok;
      }),
    );
  });
});

describe('markup', () => {
  it('takes out scripts, frames and styles, and says so', () => {
    const { html, removed } = cleanMarkup(
      '<p style="color:red" onclick="x()">Moss</p><script>x</script><iframe src="//x"></iframe>',
    );
    expect(html).toBe('<p>Moss</p>');
    expect(removed).toEqual(['a script', 'an iframe', 'inline styles', 'an event handler']);
  });
  it('takes out links, pictures and what follows the reader, and says so', () => {
    const { html, removed } = cleanMarkup(
      '<p>Read <a href="https://x.example/?utm_source=feed">more</a></p><img src="https://t.example/p" width="1" height="1"><video src="x"></video>',
    );
    expect(html).toBe('<p>Read more</p>');
    expect(removed).toEqual(['links', 'tracking in an address', 'a tracking picture', 'pictures', 'what is no text']);
  });
  it('becomes readable text', () => {
    expect(plainText('<p>One &amp; two</p><ul><li>a</li><li>b</li></ul>')).toBe('One & two\n\n- a\n- b');
  });
  it('leaves text with signs that are no markup alone', () => {
    expect(cleanMarkup('5 < 6 & 7').html).toBe('5 < 6 & 7');
  });
});

describe('values of an attribute', () => {
  it('splits lists, and reads closed lists by their letters', () => {
    expect(parseValue('a.jpg, b.jpg', plainStyle, attribute({ type: 'media', many: true }))).toMatchObject({
      ok: true,
      value: [{ name: 'a.jpg' }, { name: 'b.jpg' }],
    });
    expect(parseValue('SELLING', plainStyle, attribute({ type: 'choice', choices: ['selling'] }))).toMatchObject({
      ok: true,
      value: 'selling',
    });
    expect(parseValue('other', plainStyle, attribute({ type: 'choice', choices: ['selling'] })).ok).toBe(false);
  });
  it('reads amounts exactly, with or without a sign', () => {
    const money = attribute({ type: 'money' });
    expect(parseValue('£6.99', { ...plainStyle, currency: 'GBP' }, money)).toMatchObject({
      ok: true,
      value: { amount: '6.99', currency: 'GBP' },
    });
    expect(parseValue('3,21', { ...comma, currency: 'EUR' }, money)).toMatchObject({
      ok: true,
      value: { amount: '3.21', currency: 'EUR' },
    });
    expect(parseValue('auf Anfrage', { ...comma, currency: 'EUR' }, money).ok).toBe(false);
    expect(parseValue('5 USD', { ...plainStyle, currency: 'EUR' }, money).ok).toBe(false);
  });
  it.each([
    ['2026-05-01', comma, '2026-05-01'],
    ['2026-05-01T10:00:00Z', comma, '2026-05-01'],
    ['01.05.2026', comma, '2026-05-01'],
    ['1.5.2026', comma, '2026-05-01'],
    ['01.05.26', comma, '2026-05-01'],
    ['05/01/2026', { ...plainStyle, dateOrder: 'mdy' }, '2026-05-01'],
    ['5/1/26', { ...plainStyle, dateOrder: 'mdy' }, '2026-05-01'],
    ['29.02.2028', comma, '2028-02-29'],
  ] as const)('reads the date %s', (raw, style, value) =>
    expect(parseValue(raw, style, attribute({ type: 'date' }))).toEqual({ ok: true, value }),
  );
  it.each(['31.02.2026', '29.02.2027', '13.13.2026', '1.5.126', 'week 14', '2026'])('refuses %s as a date', (raw) =>
    expect(parseValue(raw, comma, attribute({ type: 'date' })).ok).toBe(false),
  );
  it.each([
    ['ja', true],
    ['Ja', true],
    ['x', true],
    ['1', true],
    ['WAHR', true],
    ['nein', false],
    ['Nej', false],
    ['0', false],
    ['no', false],
  ])('reads %s as yes or no', (raw, value) =>
    expect(parseValue(raw, plainStyle, attribute({ type: 'boolean' }))).toEqual({ ok: true, value }),
  );
  it.each([
    ['£6.99', plainStyle, '6.99', 'GBP'],
    ['6,99 €', comma, '6.99', 'EUR'],
    ['EUR 1.234,50', comma, '1234.5', 'EUR'],
    ['1 249 kr', comma, '1249', 'SEK'],
    ['12.50 USD', plainStyle, '12.5', 'USD'],
  ] as const)('reads the price %s', (raw, style, amount, currency) =>
    expect(parseValue(raw, style, attribute({ type: 'money' }))).toMatchObject({
      ok: true,
      value: { amount, currency },
    }),
  );
  it.each(['auf Anfrage', 'EUR', '–', '12,50,00 EUR'])('refuses %s as a price', (raw) =>
    expect(parseValue(raw, { ...comma, currency: 'EUR' }, attribute({ type: 'money' })).ok).toBe(false),
  );
  it.each([
    ['Mar–May', 'March April May'],
    ['Mar-May; Aug', 'March April May August'],
    ['March to May', 'March April May'],
    ['Oct–Feb', 'October November December January February'],
    ['all year', 'January February March April May June July August September October November December'],
    ['May', 'May'],
  ])('reads the months %s', (raw, names) =>
    expect(
      parseValue(
        raw,
        plainStyle,
        attribute({
          type: 'choice',
          many: true,
          choices: 'January February March April May June July August September October November December'.split(' '),
        }),
      ),
    ).toEqual({ ok: true, value: names.split(' ') }),
  );
  it('gives text keys in which code-unit and code-point order agree', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.string({ unit: 'binary' }), (a, b) => {
        const [x = '', y = ''] = [sortKeys(a, attribute({}))[0], sortKeys(b, attribute({}))[0]].map(String);
        const points = (text: string) => Array.from(text, (text) => text.codePointAt(0) ?? 0);
        const [p, q] = [points(x), points(y)];
        const at = p.findIndex((id, i) => id !== q[i]);
        const byPoint = at < 0 ? p.length - q.length : q[at] === undefined ? 1 : (p[at] ?? 0) - q[at];
        return Math.sign(byPoint) === (x < y ? -1 : x > y ? 1 : 0);
      }),
    );
    expect(foldText('  Éß  Ärger ')).toBe('eß arger');
  });
  it('prints equal data equally, whatever the order of keys', () => {
    expect(canonical({ b: [1, { d: 1, c: undefined }], a: 'x' })).toBe(canonical({ a: 'x', b: [1, { d: 1 }] }));
  });
});
