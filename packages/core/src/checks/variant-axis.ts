import { z } from 'zod';
import { type Rulebook, overridesIn } from '../rulebooks/index.js';
import { sayLabel } from '../values/index.js';
import { type FamilyCheck, type ItemFault, rulesOf } from './model.js';

const settings = z.strictObject({
  /** The attribute that says which items belong together. */
  group: z.string(),
  axes: z.array(z.string()),
  /** Other axes in some categories and all below them; where several hold, the deepest counts. */
  overrides: z.array(z.strictObject({ in: z.array(z.string()).min(1), axes: z.array(z.string()) })).default([]),
});
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'variant-axis', settings);

/** All that the channel knows as axes, in whatever category. */
export const variantAxes = (rulebook: Rulebook): ReadonlySet<string> =>
  new Set(rules(rulebook).flatMap(({ axes, overrides }) => [...axes, ...overrides.flatMap((part) => part.axes)]));

/** Axes that are named; of long lists the rest is counted. */
const mostNamed = 4;

/** "shade, size or length" */
function sayAxes(axes: readonly string[], { attributes }: Rulebook): string {
  const names = axes.map((axis) => sayLabel(attributes.find(({ key }) => key === axis)?.label ?? axis));
  const shown =
    names.length > mostNamed + 1 ? [...names.slice(0, mostNamed), `${names.length - mostNamed} others`] : names;
  return [shown.slice(0, -1).join(', '), shown.at(-1)].filter(Boolean).join(' or ');
}

const axesIn = ({ axes, overrides }: z.infer<typeof settings>, category: string | undefined): readonly string[] =>
  (category === undefined ? undefined : overridesIn(overrides, category).at(-1)?.axes) ?? axes;

/** Whether the channel tells variants apart by an attribute in one of its categories. */
export const isAxisIn = (rulebook: Rulebook, category: string | undefined, attribute: string): boolean =>
  rules(rulebook).some((rule) => axesIn(rule, category).includes(attribute));

export const variantAxis: FamilyCheck = {
  meta: {
    id: 'variant-axis',
    severity: 'blocker',
    describes: 'Variants of one group differ in at least one attribute that the channel knows as an axis.',
    fix: 'axis',
    say: ({ axes = '' }) => `Nothing among ${axes} tells this variant from its siblings`,
  },
  settings,
  names: (rulebook) =>
    rules(rulebook).flatMap(({ group, axes, overrides }) => [
      group,
      ...axes,
      ...overrides.flatMap((part) => part.axes),
    ]),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    const { group } = rule;
    const byCategory = new Map<string | undefined, { axes: readonly string[]; fault: ItemFault }>();
    const plan = (category: string | undefined) => {
      const known = byCategory.get(category);
      if (known) return known;
      const axes = axesIn(rule, category);
      const made = { axes, fault: { attribute: group, params: { axes: sayAxes(axes, rulebook) } } };
      byCategory.set(category, made);
      return made;
    };
    return (siblings) =>
      siblings.map(({ item, category }) => {
        if (siblings.length < 2 || item[group] === undefined) return undefined;
        const { axes, fault } = plan(category);
        return axes.every((axis) => item[axis] === undefined) ? fault : undefined;
      });
  },
  examples: {
    rules: [
      {
        check: 'variant-axis',
        group: 'group',
        axes: ['colour', 'size'],
        overrides: [{ in: ['lamps'], axes: ['watt'] }],
      },
    ],
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
      [
        { item: { group: '1', colour: 'green' }, category: 'lamps/desk', options: [] },
        { item: { group: '1', watt: 9 }, category: 'lamps/desk', options: [] },
      ],
    ],
  },
};
