/** Fills in words: what they read, by the names people know. */
import type { Condition } from '@velvet-shelf/core/conditions';
import { type FillRule, sayRule } from '@velvet-shelf/core/fills';
import { operators } from '../catalog/ComparisonFields';

interface Named {
  name: string;
  label: string;
}

/** "stock is at least 1" */
function sayCondition(condition: Condition, label: (name: string) => string): string {
  if (!('attribute' in condition)) return 'several things hold';
  const { attribute, op, value } = condition;
  return [label(attribute), operators.find(([row]) => row === op)?.[1] ?? op, value ?? ''].join(' ').trim();
}

/** "copies Brand"; `known` names what rules read and compare. */
export function sayFillRule(rule: FillRule, known: readonly Named[]): string {
  const source = (name: string) => known.find((row) => row.name === name)?.label ?? name;
  return sayRule(rule, { source, condition: (condition) => sayCondition(condition, source) });
}
