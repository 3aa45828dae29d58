import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type Item, type ItemCheck, rulesOf } from './model.js';

/** All of the first attributes, and one of the second where there are any. */
const waySchema = z.strictObject({
  name: z.string(),
  all: z.array(z.string()).min(1),
  any: z.array(z.string()).default([]),
});
type Way = z.infer<typeof waySchema>;

/** An item is told by at least so many of these ways. */
const settings = z.strictObject({ least: z.int().positive(), ways: z.array(waySchema).min(1) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'told-by', settings);

const holds = (item: Item, { all, any }: Way) =>
  all.every((key) => item[key] !== undefined) && (any.length === 0 || any.some((key) => item[key] !== undefined));

export const toldBy: ItemCheck = {
  meta: {
    id: 'told-by',
    severity: 'blocker',
    describes: 'An item carries enough to be told from others: so many of the ways that the channel knows.',
    fix: 'catalog',
    fault: 'is not given, nor enough else to tell the goods by',
    say: ({ least = 0, ways = '' }) => `It is not told by ${least} of ${ways}`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ ways }) => ways.flatMap(({ all, any }) => [...all, ...any])),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    const { least, ways } = rule;
    const params = { least, ways: ways.map(({ name }) => name).join(', ') };
    return (item) => {
      const missing = ways.filter((way) => !holds(item, way));
      const [first] = missing;
      if (!first || ways.length - missing.length >= least) return undefined;
      return {
        attribute: first.all.find((key) => item[key] === undefined) ?? first.any[0] ?? first.all[0] ?? '',
        params,
      };
    };
  },
  examples: {
    rules: [
      {
        check: 'told-by',
        least: 2,
        ways: [
          { name: 'a GTIN', all: ['gtin'], any: [] },
          { name: 'a maker’s number', all: ['number', 'maker'], any: [] },
          { name: 'a family', all: ['kin'], any: ['shade', 'size'] },
        ],
      },
    ],
    pass: [
      { gtin: '2104000004131', number: 'H1', maker: 'Hobnettle' },
      { gtin: '2104000004131', kin: 'F1', shade: 'moss' },
    ],
    fail: [{}, { gtin: '2104000004131' }, { gtin: '2104000004131', kin: 'F1' }, { number: 'H1', kin: 'F1', size: 'L' }],
  },
};
