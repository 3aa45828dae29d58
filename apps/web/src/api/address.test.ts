import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { inAddress, readAddress, writeAddress } from './address';

const page = z.object({
  search: inAddress.search,
  open: inAddress.number,
  all: inAddress.flag,
  show: z.enum(['both', 'variants']).default('both'),
  where: inAddress.list(z.object({ attribute: z.string() })),
  note: inAddress.text,
});

describe('what a page keeps in its address', () => {
  it('is read by its schema, and by its defaults where there is nothing', () => {
    expect(readAddress(page, '?search=moss&open=7&all=yes&show=variants&where=[{"attribute":"a"}]')).toEqual({
      search: 'moss',
      open: 7,
      all: true,
      show: 'variants',
      where: [{ attribute: 'a' }],
      note: undefined,
    });
    expect(readAddress(page, '')).toEqual({
      search: '',
      open: undefined,
      all: false,
      show: 'both',
      where: [],
      note: undefined,
    });
  });

  it.each([
    ['open', '?open=seven'],
    ['open', '?open=-3'],
    ['all', '?all=perhaps'],
    ['show', '?show=nothing'],
    ['where', '?where={"not":"a list"}'],
    ['where', '?where=[{"attribute":7}]'],
    ['where', '?where=[oh'],
  ] as const)('that somebody spoilt (%s in %s) is as if it were not there', (field, search) =>
    expect(readAddress(page, search)[field]).toEqual(readAddress(page, '')[field]),
  );

  it('keeps what a change does not name, and leaves out what is empty', () => {
    expect(writeAddress('?search=moss&open=7', { open: undefined })).toBe('search=moss');
    expect(writeAddress('?search=moss', { search: '', all: false, where: [] })).toBe('');
    expect(writeAddress('?other=1', { all: true })).toBe('other=1&all=yes');
  });

  it('is read back as it was written, whatever it holds', () => {
    const fields = fc.record({
      search: fc.string({ unit: 'binary' }).map((text) => text.toWellFormed()),
      open: fc.option(fc.integer({ min: 1, max: 1e9 }), { nil: undefined }),
      all: fc.boolean(),
      show: fc.constantFrom<('both' | 'variants')[]>('both', 'variants'),
      where: fc.array(fc.record({ attribute: fc.string() }), { maxLength: 3 }),
    });
    fc.assert(
      fc.property(fields, fields, (first, second) => {
        const once = writeAddress('', first);
        expect(readAddress(page, once)).toMatchObject(first);
        expect(readAddress(page, writeAddress(once, second))).toMatchObject(second);
      }),
    );
  });
});
