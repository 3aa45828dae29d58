import type { FamilyCheck, Sibling } from './model.js';

export const siblingOptions: FamilyCheck = {
  meta: {
    id: 'sibling-options',
    severity: 'blocker',
    describes: 'Two variants of one family have the same value on every axis: a buyer could not tell them apart.',
    fix: 'catalog',
    say: ({ options = '' }) => `Another variant of the family has the same options (${options})`,
  },
  compile() {
    return (siblings) => {
      const counts = new Map<string, number>();
      const prints = siblings.map(print);
      for (const one of prints) counts.set(one, (counts.get(one) ?? 0) + 1);
      return prints.map((one) =>
        one !== '' && (counts.get(one) ?? 0) > 1 ? { attribute: 'options', params: { options: one } } : undefined,
      );
    };
  },
  examples: {
    rules: [],
    pass: [
      [
        { item: {}, options: [['glaze', 'Moss']] },
        { item: {}, options: [['glaze', 'Slate']] },
      ],
      [
        { item: {}, options: [] },
        { item: {}, options: [] },
      ],
    ],
    fail: [
      [
        { item: {}, options: [['glaze', 'Moss']] },
        { item: {}, options: [['glaze', 'Moss']] },
      ],
    ],
  },
};

function print({ options }: Sibling): string {
  return options.length === 0 ? '' : options.map(([axis, value]) => `${axis}: ${value}`).join(', ');
}
