/** A condition over columns: the rows it lets through. */
import { type Comparison, type Condition, keyTest } from '../conditions/index.js';
import type { Attribute } from '../values/index.js';
import { Bits } from './bits.js';
import type { Column } from './column.js';

/** Rows of `size` a condition holds of: the same that `compileCondition` lets through. */
export function matchingRows(condition: Condition, size: number, compared: (comparison: Comparison) => Bits): Bits {
  const rowsOf = (part: Condition) => matchingRows(part, size, compared);
  if ('all' in condition) return condition.all.reduce((rows, part) => rows.and(rowsOf(part)), Bits.all(size));
  if ('any' in condition) return condition.any.reduce((rows, part) => rows.or(rowsOf(part)), Bits.none(size));
  if ('not' in condition) return rowsOf(condition.not).flip();
  return compared(condition);
}

/** Rows whose value passes a comparison that is about its keys: all but of long texts. */
export function comparedRows(comparison: Comparison, attribute: Attribute, column: Column, size: number): Bits {
  if (comparison.op === 'isEmpty') return column.filled(size).flip();
  if (comparison.op === 'isNotEmpty') return column.filled(size);
  return column.having(size, keyTest(comparison, attribute));
}
