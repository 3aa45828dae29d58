import type { ItemCheck } from './model.js';

export const identifiers: ItemCheck = {
  meta: {
    id: 'identifiers',
    severity: 'blocker',
    describes: 'An item is known by its GTIN, or else by brand and MPN together.',
    fix: 'catalog',
    say: () => 'There is neither a GTIN nor a brand with an MPN',
  },
  compile(rulebook) {
    const rule = rulebook.rules.find((one) => one.check === 'identifiers');
    if (rule?.check !== 'identifiers') return undefined;
    const { gtin, brand, mpn } = rule;
    return (item) =>
      item[gtin] !== undefined || (item[brand] !== undefined && item[mpn] !== undefined)
        ? undefined
        : { attribute: gtin, params: {} };
  },
  examples: {
    rules: [{ check: 'identifiers', gtin: 'gtin', brand: 'brand', mpn: 'mpn' }],
    pass: [{ gtin: '2104000004131' }, { brand: 'Hobnettle', mpn: 'H1' }],
    fail: [{}, { brand: 'Hobnettle' }, { mpn: 'H1' }],
  },
};
