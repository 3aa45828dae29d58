import { z } from 'zod';
import { type Rulebook, sayChannelValue } from '../rulebooks/index.js';
import { type FamilyCheck, rulesOf } from './model.js';

const settings = z.strictObject({ attributes: z.array(z.string()).min(1) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'same-in-family', settings);

export const sameInFamily: FamilyCheck = {
  meta: {
    id: 'same-in-family',
    severity: 'blocker',
    describes: 'Siblings share what the channel keeps once for a family: its brand, its category.',
    fix: 'catalog',
    fault: 'is another than the siblings’',
    say: ({ value = '', usual = '' }, label) => `${label} is “${value}”; most of its siblings have “${usual}”`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ attributes }) => attributes),
  compile(rulebook) {
    const attributes = rules(rulebook).flatMap((rule) => rule.attributes);
    if (attributes.length === 0) return undefined;
    return (siblings) => {
      const faults = siblings.map(() => undefined as ReturnType<typeof fault>);
      for (const attribute of attributes) {
        const held = siblings.map(({ item }) => {
          const value = item[attribute];
          return value === undefined ? '' : sayChannelValue(value);
        });
        const counts = new Map<string, number>();
        for (const value of held) if (value !== '') counts.set(value, (counts.get(value) ?? 0) + 1);
        if (counts.size < 2) continue;
        // Of as many each, what stands first is what most have.
        const usual = [...counts].reduce((best, one) => (one[1] > best[1] ? one : best))[0];
        held.forEach((value, i) => (faults[i] ??= fault(attribute, value, usual)));
      }
      return faults;
    };
  },
  examples: {
    rules: [{ check: 'same-in-family', attributes: ['brand'] }],
    pass: [['Hobnettle', 'Hobnettle'].map((brand) => ({ item: { brand }, options: [] })), [{ item: {}, options: [] }]],
    fail: [['Hobnettle', 'Hobnettle', 'Thrale'].map((brand) => ({ item: { brand }, options: [] }))],
  },
};

const fault = (attribute: string, value: string, usual: string) =>
  value === '' || value === usual ? undefined : { attribute, params: { value, usual } };
