import { z } from 'zod';
import { sayChannelValue } from '../../rulebooks/index.js';
import { foldText } from '../../values/index.js';
import {
  type CompiledFill,
  type Link,
  type RuleContext,
  defineRule,
  isReadable,
  longestName,
  longestText,
  noFill,
} from './model.js';

export interface TranslateRule {
  kind: 'translate';
  from: string;
  /** Our word → theirs; words are compared folded. What is on a closed list stands by its key. */
  table: Record<string, string>;
  /** What becomes of a word that is not in the table. */
  otherwise: 'keep' | 'empty';
}

const mostWords = 10_000;
const text = z.string().max(longestText);

export const translate = defineRule<TranslateRule>({
  kind: 'translate',
  label: 'Translate values',
  schema: () =>
    z.strictObject({
      kind: z.literal('translate'),
      from: z.string().max(longestName),
      table: z
        .record(text, text)
        .refine((table) => Object.keys(table).length <= mostWords, `A table has ${mostWords} words at most`),
      otherwise: z.enum(['keep', 'empty']),
    }),
  reads: ({ from }) => [from],
  compile<View>(rule: TranslateRule, context: RuleContext<View>): CompiledFill<View> {
    const source = context.source(rule.from);
    if (!source) return noFill;
    const exact = new Map(Object.entries(rule.table));
    // A word of ours that was made one with another means that one, unless the table has its own for it.
    for (const [from, to] of Object.entries(rule.table)) {
      const now = source.current?.(from) ?? from;
      if (!exact.has(now)) exact.set(now, to);
    }
    const folded = new Map(Object.entries(rule.table).map(([from, to]) => [foldText(from), to]));
    const look = (view: View, word: string) =>
      exact.get(source.refer?.(view) ?? word) ?? exact.get(word) ?? folded.get(foldText(word));
    const read = (view: View) => {
      const value = source.read(view);
      return value === undefined ? undefined : sayChannelValue(value);
    };
    const blame = (view: View): Link => {
      const word = read(view);
      if (word === undefined) return source.link;
      const listed = source.refer?.(view);
      return listed === undefined
        ? { at: 'translation', value: word }
        : { at: 'translation', value: listed, of: rule.from };
    };
    return {
      value: (view) => {
        const word = read(view);
        return word === undefined ? undefined : (look(view, word) ?? (rule.otherwise === 'keep' ? word : undefined));
      },
      blame,
      origin: blame,
      trace: (view) => {
        const word = read(view);
        const theirs = word === undefined ? undefined : look(view, word);
        const words =
          word === undefined
            ? `Translates ${source.label}`
            : theirs === undefined
              ? `Translates ${source.label}: “${word}” is not in the table${rule.otherwise === 'keep' ? ', so it is kept' : ''}`
              : `Translates ${source.label}: “${word}” becomes “${theirs}”`;
        return [{ at: 'fill', words }, source.step(view)];
      },
    };
  },
  say: ({ from, table }, words) => `translates ${words.source(from)} (${Object.keys(table).length} pairs)`,
  begin: ({ from }) => ({ kind: 'translate', from, table: {}, otherwise: 'keep' }),
  isWhole: ({ from }) => from !== '',
  carry: (rule, taking) => {
    if (!isReadable([rule.from], taking)) return undefined;
    const pairs = Object.entries(rule.table).map(([from, to]) => [from, taking.value(to)] as const);
    const left = pairs.flatMap(([from, to]) => (to === undefined ? [] : [[from, to] as const]));
    if (left.length < pairs.length) taking.leave(`${pairs.length - left.length} of ${pairs.length} translations`);
    return { ...rule, table: Object.fromEntries(left) };
  },
  translate: (rule, from, to) => ({ ...rule, table: { ...rule.table, [from]: to } }),
});
