import { z } from 'zod';
import { defineRule, longestName, noFill } from './model.js';

export interface CopyRule {
  kind: 'copy';
  from: string;
}

export const copy = defineRule<CopyRule>({
  kind: 'copy',
  label: 'Copy an attribute',
  schema: () => z.strictObject({ kind: z.literal('copy'), from: z.string().max(longestName) }),
  reads: ({ from }) => [from],
  compile({ from }, context) {
    const source = context.source(from);
    if (!source) return noFill;
    return {
      value: source.read,
      blame: () => source.link,
      origin: (view) => {
        const listed = source.refer?.(view);
        return source.link.at === 'catalog' && listed !== undefined ? { ...source.link, listed } : source.link;
      },
      trace: (view) => [{ at: 'fill', words: `Copies ${source.label}` }, source.step(view)],
    };
  },
  say: ({ from }, words) => `copies ${words.source(from)}`,
  begin: ({ from }) => ({ kind: 'copy', from }),
  isWhole: ({ from }) => from !== '',
  translate: (rule, from, to) => ({ kind: 'translate', from: rule.from, table: { [from]: to }, otherwise: 'keep' }),
});
