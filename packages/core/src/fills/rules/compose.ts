import { z } from 'zod';
import { sayChannelValue } from '../../rulebooks/index.js';
import { type CompiledFill, type Link, type RuleContext, defineRule, longestName, longestText } from './model.js';

/** Text between values; a value's `before` and `after` appear only with the value. */
export type ComposePart = { text: string } | { from: string; before?: string | undefined; after?: string | undefined };

export interface ComposeRule {
  kind: 'compose';
  parts: ComposePart[];
}

const mostParts = 50;
const text = z.string().max(longestText);

const partSchema = z.union([
  z.strictObject({ text }),
  z.strictObject({ from: z.string().max(longestName), before: text.optional(), after: text.optional() }),
]);

const sourcesOf = ({ parts }: ComposeRule) => parts.flatMap((part) => ('from' in part ? [part.from] : []));

export const compose = defineRule<ComposeRule>({
  kind: 'compose',
  label: 'Compose from parts',
  schema: () => z.strictObject({ kind: z.literal('compose'), parts: z.array(partSchema).min(1).max(mostParts) }),
  reads: sourcesOf,
  compile<View>(rule: ComposeRule, context: RuleContext<View>): CompiledFill<View> {
    const parts = rule.parts.map((part) =>
      'text' in part
        ? { text: part.text }
        : { source: context.source(part.from), before: part.before ?? '', after: part.after ?? '' },
    );
    const sources = parts.flatMap((part) => part.source ?? []);
    const link: Link = sources[0]?.link ?? { at: 'fill' };
    const value = (view: View) => {
      let whole = '';
      let hasValue = false;
      for (const part of parts) {
        if (part.text !== undefined) whole += part.text;
        else {
          const read = part.source?.read(view);
          if (read === undefined) continue;
          hasValue = true;
          whole += part.before + sayChannelValue(read) + part.after;
        }
      }
      return hasValue ? whole.replace(/\s+/g, ' ').trim() : undefined;
    };
    return {
      value,
      blame: () => link,
      origin: () => link,
      trace: (view) => [
        { at: 'fill', words: `Composed from ${sources.map(({ label }) => label).join(', ')}` },
        ...sources.map((source) => source.step(view)),
      ],
    };
  },
  say: (rule, words) => `composed of ${sourcesOf(rule).map(words.source).join(', ')}`,
  begin: ({ from }) => ({ kind: 'compose', parts: [{ from }] }),
  isWhole: ({ parts }) => parts.length > 0,
});
