import type { FamilyCheck } from './model.js';

export const siblingAxes: FamilyCheck = {
  meta: {
    id: 'sibling-axes',
    severity: 'advice',
    describes: 'The variants of a family vary on the same axes.',
    fix: 'catalog',
    fault: 'are on other axes than the siblings’',
    say: ({ axes = '', usual = '' }) => `It varies on ${axes}, its siblings on ${usual}`,
  },
  compile() {
    return (siblings) => {
      const axes = siblings.map(({ options }) => options.map(([axis]) => axis).join(' × '));
      const counts = new Map<string, number>();
      for (const axis of axes) if (axis !== '') counts.set(axis, (counts.get(axis) ?? 0) + 1);
      if (counts.size < 2) return siblings.map(() => undefined);
      const usual = [...counts].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
      return axes.map((axis) =>
        axis !== '' && axis !== usual ? { attribute: 'options', params: { axes: axis, usual } } : undefined,
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
