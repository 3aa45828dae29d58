import { readGtin } from '../values/index.js';
import { type ValueCheck, ofText } from './model.js';

export const gtinDigits: ValueCheck = {
  meta: {
    id: 'gtin-digits',
    severity: 'blocker',
    describes: 'A GTIN has 8, 12, 13 or 14 digits and a true check digit (GS1 General Specifications, 7.9).',
    fix: 'catalog',
    fault: 'cannot be right',
    limit: 'gtin digits',
    say: ({ reason = '' }) => String(reason),
  },
  compile({ type }) {
    if (type !== 'gtin') return undefined;
    return ofText((text) => {
      const read = readGtin(text);
      return read.ok ? undefined : { reason: read.reason };
    });
  },
  examples: {
    attribute: { type: 'gtin' },
    pass: ['2104000004131', '0012345678905'],
    fail: ['2104000004132', '2.30800E+12', '123'],
  },
};
