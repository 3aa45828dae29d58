import type { Rulebook } from '../rulebooks/index.js';
import { sayLabel } from '../values/index.js';
import type { FamilyCheck } from './model.js';

/** Axes that are named; of long lists the rest is counted. */
const mostNamed = 4;

/** "shade, size or length" */
function sayAxes(axes: readonly string[], { attributes }: Rulebook): string {
  const names = axes.map((axis) => sayLabel(attributes.find(({ key }) => key === axis)?.label ?? axis));
  const shown =
    names.length > mostNamed + 1 ? [...names.slice(0, mostNamed), `${names.length - mostNamed} others`] : names;
  return [shown.slice(0, -1).join(', '), shown.at(-1)].filter(Boolean).join(' or ');
}

export const variantAxis: FamilyCheck = {
  meta: {
    id: 'variant-axis',
    severity: 'blocker',
    describes: 'Variants of one group differ in at least one attribute that the channel knows as an axis.',
    fix: 'axis',
    say: ({ axes = '' }) => `Nothing among ${axes} tells this variant from its siblings`,
  },
  compile(rulebook) {
    const rule = rulebook.rules.find((rule) => rule.check === 'variant-axis');
    if (rule?.check !== 'variant-axis') return undefined;
    const { group, axes } = rule;
    const fault = { attribute: group, params: { axes: sayAxes(axes, rulebook) } };
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
