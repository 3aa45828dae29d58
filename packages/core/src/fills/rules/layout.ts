import { z } from 'zod';
import { type Block, blockSchema, blockSources, isWholeBlock, renderBlocks } from '../blocks/index.js';
import { type CompiledFill, type Link, type RuleContext, defineRule } from './model.js';

/** A text laid out of blocks: texts, attributes, pictures, words of our own, one below the other. */
export interface LayoutRule {
  kind: 'layout';
  blocks: Block[];
}

const mostBlocks = 30;

const sourcesOf = ({ blocks }: LayoutRule) => blocks.flatMap(blockSources);

export const layout = defineRule<LayoutRule>({
  kind: 'layout',
  label: 'Lay out of blocks',
  schema: () => z.strictObject({ kind: z.literal('layout'), blocks: z.array(blockSchema).min(1).max(mostBlocks) }),
  reads: sourcesOf,
  compile<View>(rule: LayoutRule, context: RuleContext<View>): CompiledFill<View> {
    const sources = new Map(
      sourcesOf(rule).flatMap((name) => {
        const source = context.source(name);
        return source ? [[name, source] as const] : [];
      }),
    );
    const [leading] = sources.values();
    const link: Link = leading?.link ?? { at: 'fill' };
    return {
      value: (view) =>
        renderBlocks(rule.blocks, (name) => {
          const source = sources.get(name);
          const value = source?.read(view);
          return source && value !== undefined ? { label: source.label, value } : undefined;
        }),
      blame: () => link,
      origin: () => link,
      trace: (view) => [
        { at: 'fill', words: `Laid out of ${rule.blocks.length} ${rule.blocks.length === 1 ? 'block' : 'blocks'}` },
        ...[...sources.values()].map((source) => source.step(view)),
      ],
    };
  },
  say: (rule, words) =>
    `laid out of ${[...new Set(sourcesOf(rule))].map(words.source).join(', ') || 'words of our own'}`,
  begin: ({ from }) => ({ kind: 'layout', blocks: [{ block: 'text', from }] }),
  isWhole: ({ blocks }) => blocks.length > 0 && blocks.every(isWholeBlock),
});
