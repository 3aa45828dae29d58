import type { FamilyCheck } from './model.js';

export const siblingAxes: FamilyCheck = {
  meta: {
    id: 'sibling-axes',
    severity: 'advice',
    describes: 'The variants of a family vary on the same axes.',
    fix: 'catalog',
    say: ({ axes = '', usual = '' }) => `It varies on ${axes}, its siblings on ${usual}`,
  },
  compile() {
    return (siblings) => {
      const axes = siblings.map(({ options }) => options.map(([axis]) => axis).join(' × '));
      const counts = new Map<string, number>();
      for (const one of axes) if (one !== '') counts.set(one, (counts.get(one) ?? 0) + 1);
      if (counts.size < 2) return siblings.map(() => undefined);
      const usual = [...counts].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
      return axes.map((one) =>
        one !== '' && one !== usual ? { attribute: 'options', params: { axes: one, usual } } : undefined,
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
    ],
    fail: [
      [
        { item: {}, options: [['glaze', 'Moss']] },
        { item: {}, options: [['glaze', 'Slate']] },
        { item: {}, options: [['size', 'L']] },
      ],
    ],
  },
};
