import type { FamilyCheck } from './model.js';

export const variantAxis: FamilyCheck = {
  meta: {
    id: 'variant-axis',
    severity: 'blocker',
    describes: 'Variants of one group differ in at least one attribute that the channel knows as an axis.',
    fix: 'axis',
    say: ({ axes = '' }) => `No ${axes} tells this variant from its siblings`,
  },
  compile(rulebook) {
    const rule = rulebook.rules.find((one) => one.check === 'variant-axis');
    if (rule?.check !== 'variant-axis') return undefined;
    const { group, axes } = rule;
    const fault = { attribute: group, params: { axes: axes.join(' or ') } };
    return (siblings) =>
      siblings.map(({ item }) =>
        siblings.length > 1 && item[group] !== undefined && axes.every((axis) => item[axis] === undefined)
          ? fault
          : undefined,
      );
  },
  examples: {
    rules: [{ check: 'variant-axis', group: 'group', axes: ['colour', 'size'] }],
    pass: [
      [{ item: { group: '1' }, options: [] }],
      [
        { item: { group: '1', colour: 'green' }, options: [] },
        { item: { group: '1', size: '12 cm' }, options: [] },
      ],
    ],
    fail: [
      [
        { item: { group: '1', colour: 'green' }, options: [] },
        { item: { group: '1' }, options: [] },
      ],
    ],
  },
};
