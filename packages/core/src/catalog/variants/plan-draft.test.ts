import { describe, expect, it } from 'vitest';
import { type AxisDraft, draftPlan, noPlan, optionPlanSchema, optionsBy, planOf } from './index.js';

const axes = [
  { key: 'glaze', kind: 'text' as const, values: ['Moss', 'Rust'] },
  { key: 'size', kind: 'size' as const, values: ['S', 'L'] },
];
const draft = draftPlan(axes, noPlan);
const change = (axis: number, to: Partial<AxisDraft>) =>
  draft.map((each, i) => (i === axis ? { ...each, ...to } : each));
const named = (axis: number, value: number, to: object) =>
  change(axis, { values: (draft[axis]?.values ?? []).map((each, i) => (i === value ? { ...each, ...to } : each)) });

describe('a plan that is edited', () => {
  it('keeps nothing where all is as the goods have it', () => {
    expect(planOf(draft)).toEqual(noPlan);
  });
  it('keeps an old name with the new one, and is read back as it was written', () => {
    const plan = optionPlanSchema.parse(planOf(named(0, 1, { value: 'Terracotta' })));
    expect(plan.axes[0]?.values).toEqual([{ value: 'Terracotta', from: ['Rust'], hidden: false, surcharge: {} }]);
    const again = draftPlan(
      [{ ...(axes[0] as (typeof axes)[0]), values: ['Moss', 'Terracotta'] }, ...axes.slice(1)],
      plan,
    );
    expect(planOf(again)).toEqual(plan);
  });
  it('makes two values one where one is given the name of the other', () => {
    const plan = optionPlanSchema.parse(planOf(named(0, 1, { value: 'MOSS' })));
    expect(optionsBy(plan, [['glaze', 'Rust']])).toEqual([['glaze', 'Moss']]);
  });
  it('keeps another way of writing the same', () => {
    expect(optionsBy(planOf(named(1, 1, { value: 'l' })), [['size', 'L']])).toEqual([['size', 'l']]);
  });
  it('keeps an order of axes, and of values', () => {
    const turned = planOf([...draft].reverse(), ['glaze', 'size']);
    expect(
      optionsBy(turned, [
        ['glaze', 'Rust'],
        ['size', 'L'],
      ]),
    ).toEqual([
      ['size', 'L'],
      ['glaze', 'Rust'],
    ]);
    const ordered = planOf(change(0, { isOrdered: true, values: [...(draft[0]?.values ?? [])].reverse() }));
    expect(ordered.axes[0]?.values.map(({ value }) => value)).toEqual(['Rust', 'Moss']);
  });
  it('shows an axis that is gone, to be brought back', () => {
    const gone = planOf(change(1, { gone: true }));
    expect(optionsBy(gone, [['size', 'L']])).toEqual([]);
    const again = draftPlan(axes.slice(0, 1), gone);
    expect(again.map(({ name, gone: isGone }) => [name, isGone])).toEqual([
      ['glaze', false],
      ['size', true],
    ]);
  });
});
