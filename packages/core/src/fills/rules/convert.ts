import { z } from 'zod';
import { convertMinor } from '../../values/index.js';
import { type RuleContext, type CompiledFill, defineRule, longestName, noFill } from './model.js';

/** A price we keep in one currency in that of the place, at the company's rate. */
export interface ConvertRule {
  kind: 'convert';
  /** A price, by its name among sources. */
  from: string;
  /** The currency it is kept in (ISO 4217). */
  currency: string;
}

export const convert = defineRule<ConvertRule>({
  kind: 'convert',
  label: 'Convert a price',
  takes: ['money'],
  schema: () =>
    z.strictObject({
      kind: z.literal('convert'),
      from: z.string().max(longestName),
      currency: z.string().regex(/^([A-Z]{3})?$/),
    }),
  reads: ({ from }) => [from],
  converts: ({ currency }) => [currency],
  compile<View>({ from, currency }: ConvertRule, context: RuleContext<View>): CompiledFill<View> {
    const source = context.source(from, currency);
    if (!source) return noFill;
    const rate = context.rate(currency);
    const to = context.currency;
    return {
      value: (view) => {
        const value = source.read(view);
        if (typeof value !== 'object' || value.kind !== 'money') return undefined;
        if (value.currency === to) return value;
        if (!rate) return undefined;
        return { kind: 'money', minor: convertMinor(value.minor, value.currency, to, rate.rate), currency: to };
      },
      // A price that is there lacks just its rate.
      blame: (view) => (source.read(view) === undefined ? source.link : { at: 'fill' }),
      origin: () => source.link,
      trace: (view) => [
        {
          at: 'fill',
          words: rate
            ? `Converts ${source.label} from ${currency} at ${rate.rate} ${to} (${rate.source}, ${rate.day})`
            : `Converts ${source.label} from ${currency}: there is no rate to ${to} yet`,
        },
        source.step(view),
      ],
    };
  },
  say: ({ from, currency }, words) => `converts ${words.source(from)} from ${currency || '…'}`,
  begin: ({ from }) => ({ kind: 'convert', from, currency: '' }),
  isWhole: ({ from, currency }) => from !== '' && currency !== '',
});
