/** A plan as it is edited: every axis and value there is, with what is said of it, and back to what alone has to be kept. */
import type { OptionPlan, PlannedValue } from './plan.js';
import { plannedAxis, plannedValue } from './plan.js';
import type { UsedAxis } from './rack.js';
import { foldSpelling } from './text.js';

export interface ValueDraft extends PlannedValue {
  /** As goods have it now. */
  was: string;
}

export interface AxisDraft {
  /** As goods have it now. */
  was: string;
  name: string;
  from: string[];
  gone: boolean;
  isOrdered: boolean;
  values: ValueDraft[];
}

/** Axes and values in use, in the order they are shown, and behind them axes that are gone. */
export function draftPlan(axes: readonly UsedAxis[], plan: OptionPlan): AxisDraft[] {
  const used = axes.map(({ key, values }): AxisDraft => {
    const planned = plannedAxis(plan, key);
    return {
      was: key,
      name: planned?.name ?? key,
      from: planned?.from ?? [],
      gone: false,
      isOrdered: planned?.isOrdered ?? false,
      values: values.map((value) => ({
        ...{ value, from: [], hidden: false, surcharge: {} },
        ...plannedValue(planned, value),
        was: value,
      })),
    };
  });
  const gone = plan.axes.filter((axis) => axis.gone);
  return [
    ...used,
    ...gone.map(({ name, from, isOrdered, values }) => ({
      ...{ was: name, name, from, gone: true, isOrdered },
      values: values.map((value) => ({ ...value, was: value.value })),
    })),
  ];
}

/**
 * What has to be kept of it: nothing where all is as the goods have it. A value that is given the name of another is that one;
 * the first of them says what holds. `order`: the axes as they would stand without a plan.
 */
export function planOf(
  draft: readonly AxisDraft[],
  order: readonly string[] = draft.map(({ was }) => was),
): OptionPlan {
  const axes = draft.map(({ was, name, from, gone, isOrdered, values }) => ({
    name: name.trim(),
    from: otherNames(name, [...from, was]),
    gone,
    isOrdered,
    values: keptValues(values, isOrdered),
  }));
  const isMoved = draft.some(({ was }, i) => was !== order[i]);
  const isSaid = (axis: (typeof axes)[number], i: number) =>
    axis.gone || axis.isOrdered || axis.values.length > 0 || axis.from.length > 0 || axis.name !== draft[i]?.was;
  return { axes: isMoved || axes.some(isSaid) ? axes : [] };
}

function keptValues(values: readonly ValueDraft[], isOrdered: boolean): PlannedValue[] {
  const kept = new Map<string, PlannedValue & { isSaid: boolean }>();
  for (const { was, value, from, hidden, surcharge } of values) {
    const key = foldSpelling(value);
    const first = kept.get(key);
    if (first) {
      first.from = otherNames(first.value, [...first.from, ...from, was]);
      first.isSaid = true;
      continue;
    }
    const others = otherNames(value, [...from, was]);
    const said = value.trim() !== was || others.length > 0 || hidden || Object.keys(surcharge).length > 0;
    kept.set(key, { value: value.trim(), from: others, hidden, surcharge, isSaid: said || isOrdered });
  }
  return [...kept.values()].flatMap(({ isSaid, ...value }) => (isSaid ? value : []));
}

/** Each once, whatever its spelling, without the name itself. */
function otherNames(name: string, others: readonly string[]): string[] {
  const seen = new Set([foldSpelling(name)]);
  return others.filter((other) => {
    const folded = foldSpelling(other);
    if (seen.has(folded)) return false;
    seen.add(folded);
    return true;
  });
}
