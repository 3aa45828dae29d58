/** Causes in words, and how each is mended: whatever a check or a fill can yield is said, and said of the right thing. */
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { describe, expect, it } from 'vitest';
import { baseDictionary } from '../catalog/index.js';
import { checkMeta } from '../checks/index.js';
import { steps } from '../fills/index.js';
import { type Cause, causeKey } from '../listings/index.js';
import { loadRulebook } from '../checks/index.js';
import { fallBackTo, mendingStep, sayCause, sayFinding } from './index.js';

const read = loadRulebook(rulebooksOf('orrivane').at(0));
if (!read.ok) throw new Error(read.faults.join());
const { rulebook } = read;
const tree = [
  { key: 'Planters', names: { 'en-GB': 'Planters' } },
  { key: 'Planters/Indoor pots', names: { 'en-GB': 'Indoor pots' }, parent: 'Planters' },
];
const dictionary = new Map(
  baseDictionary.map((attribute) => [
    attribute.key,
    attribute.role === 'category' ? { ...attribute, choices: tree } : attribute,
  ]),
);
const place = { channel: 'orrivane', market: 'GB' };
const say = (cause: Cause, home = 'en-GB') => sayCause(causeKey(cause), dictionary, [rulebook], 'The Channel', home);

describe('a cause in words', () => {
  it.each<[Cause, string]>([
    [
      { kind: 'map-category', ...place, category: 'Planters/Indoor pots' },
      'No The Channel category for Planters / Indoor pots',
    ],
    [{ kind: 'fill', ...place, attribute: 'short' }, 'Nothing fills Short wording on The Channel'],
    [
      { kind: 'fill', ...place, attribute: 'short', slot: 'plants-growing', check: 'max-length' },
      'Short wording is too long on The Channel in Plants & growing',
    ],
    [
      { kind: 'translate', ...place, attribute: 'differsShade', value: 'Moorgrün' },
      '“Moorgrün” has no shade on The Channel',
    ],
    [{ kind: 'fit', ...place, attribute: 'short', check: 'max-length' }, 'Short wording is too long for The Channel'],
    [{ kind: 'fit', ...place, attribute: 'short', check: 'no-such' }, 'Short wording does not fit for The Channel'],
    [{ kind: 'axis', ...place, attribute: 'differsSize' }, 'Nothing tells variants apart on The Channel'],
    [{ kind: 'pin', ...place, attribute: 'short' }, 'The pinned Short wording does not fit on The Channel'],
    [{ kind: 'report', ...place, code: 'picture-not-found' }, 'The Channel answered: picture not found'],
    [{ kind: 'catalog', attribute: 'weight' }, 'No weight given'],
    [{ kind: 'catalog', attribute: 'gtin' }, 'No GTIN given'],
    [{ kind: 'catalog', attribute: 'gtin', check: 'gtin-digits' }, 'GTIN cannot be right'],
    [{ kind: 'catalog', attribute: 'price', check: 'positive-price' }, 'Price is zero'],
    [{ kind: 'catalog', attribute: 'title', check: 'no-such' }, 'Title does not pass'],
  ])('%o', (cause, words) => expect(say(cause)).toBe(words));

  it('names a language only where it is not the company’s own', () => {
    const cause: Cause = { kind: 'catalog', attribute: 'title', language: 'de-AT' };
    expect(say(cause, 'de-AT')).toBe('No title given');
    expect(say(cause, 'en-GB')).toContain('(de-AT)');
  });

  it('is its key where that is no cause of ours', () => {
    expect(sayCause('strange:thing', dictionary, [rulebook], 'The Channel', 'en-GB')).toBe('strange:thing');
  });
});

describe('every check', () => {
  it.each([...checkMeta.values()].map((meta) => [meta.id, meta] as const))(
    '“%s” is mended by what it says',
    (id, meta) => {
      if (meta.step !== undefined) expect(steps.map(({ name }) => name)).toContain(meta.step);
      if (meta.fix === 'fit')
        expect(mendingStep(id, { maxLength: 40, units: ['g'], tags: ['p'] })?.step.do).toBe(meta.step);
      if (meta.fault !== undefined) {
        const words = say({ kind: 'catalog', attribute: 'title', check: id });
        expect(words).toBe(`Title ${meta.fault}`);
      }
    },
  );

  it('says its finding with the label of the channel', () => {
    const params = { length: 120, limit: 110 };
    const finding = { check: 'max-length', severity: 'blocker', attribute: 'short', cause: '', params } as const;
    expect(sayFinding(finding, rulebook)).toBe('Short wording has 120 characters; at most 110 are taken');
    expect(sayFinding({ ...finding, check: 'channel-answer', params: { message: 'Refused: no' } }, rulebook)).toBe(
      'Refused: no',
    );
  });

  it('that no step of a fill mends offers none', () => {
    expect(mendingStep('gtin-digits', { maxLength: 40 })).toBeUndefined();
    // To how many characters it would be trimmed, nobody has said.
    expect(mendingStep('max-length', {})).toBeUndefined();
  });
});

describe('another source behind a fill', () => {
  it('comes last, and once for each that is added', () => {
    const once = fallBackTo(null, 'brand');
    expect(once).toEqual({ rule: { kind: 'copy', from: 'brand' }, fit: [] });
    const twice = fallBackTo(once, 'mpn');
    expect(twice.rule).toEqual({
      kind: 'first',
      of: [
        { kind: 'copy', from: 'brand' },
        { kind: 'copy', from: 'mpn' },
      ],
    });
    expect(fallBackTo(twice, 'sku').rule).toMatchObject({ kind: 'first', of: [{}, {}, { from: 'sku' }] });
  });
});
