/** What a channel takes of an attribute, in words. */
import { type ChannelAttribute, type Limits, type Rulebook } from '../rulebooks/index.js';
import type { ValueCheck } from './model.js';

const between = (least: number | undefined, most: number | undefined, of: string): string[] => {
  if (least !== undefined && most !== undefined) return [`${least}–${most} ${of}`.trim()];
  if (least !== undefined) return [`at least ${least} ${of}`.trim()];
  return most === undefined ? [] : [`at most ${most} ${of}`.trim()];
};

function sayNumbers({ minLength, maxLength, min, max, minCount, maxCount, maxBytes, ...of }: Limits): string[] {
  const { minWidth, minHeight, minRatio, maxRatio } = of;
  return [
    ...between(minLength, maxLength, 'characters'),
    ...between(undefined, maxBytes, 'bytes'),
    ...between(min, max, ''),
    ...between(minCount, maxCount, 'of them'),
    ...(minWidth !== undefined || minHeight !== undefined
      ? [`at least ${minWidth ?? minHeight} × ${minHeight ?? minWidth} pixels`]
      : []),
    ...between(minRatio, maxRatio, 'wide for 1 high'),
  ];
}

/** Short phrases, what is advised after what is asked; of the checks, those that hold without a limit say theirs. */
export const limitsSayer = (checks: readonly ValueCheck[]) => (attribute: ChannelAttribute, rulebook: Rulebook) => {
  const { limits, advised = {} } = attribute;
  const { values, units, tags, formats, pattern, plainGround } = limits;
  return [
    ...sayNumbers(limits),
    ...(tags ? [tags.length === 0 ? 'no markup' : `markup: ${tags.join(', ')}`] : []),
    ...(values ? [`one of ${values.length} values`] : []),
    ...(units ? [`in ${units.join(' or ')}`] : []),
    ...(formats ? [`as ${formats.join(' or ')}`] : []),
    ...(plainGround === undefined ? [] : [`${plainGround} % plain ground`]),
    ...(pattern === undefined ? [] : ['of a form of its own']),
    ...checks.flatMap(({ meta, compile }) => (meta.limit && compile(attribute, rulebook) ? [meta.limit] : [])),
    ...sayNumbers(advised).map((words) => `best ${words}`),
  ];
};
