/** What an account that is connected lets us read on the channel, and write there: said before anybody agrees. */
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import type { ChannelAdapter } from './adapters/model.js';

type Terms = NonNullable<Rulebook['terms']>;

/** A sentence for each thing that its adapter asks a channel for. */
export function readsOf(adapter: ChannelAdapter, terms: Terms): string[] {
  return [
    ...(adapter.account
      ? ['How the account stands, once a day: late and cancelled orders, notices, what is missing']
      : []),
    ...(adapter.account && terms.length > 0
      ? [`What is kept in it, so that fills can name it: ${terms.map(({ label }) => label).join(', ')}`]
      : []),
    ...(adapter.placing ? ['Where it would put goods, when you ask: it is told some of their titles'] : []),
    ...(adapter.item ? ['An item of its own catalogue, when you ask for one'] : []),
    ...(adapter.page ? ['The goods it holds, when you pull them in'] : []),
    ...(adapter.report ? ['What it says of the goods it was given'] : []),
  ];
}

/** The same for what it is told. */
export const writesOf = (adapter: ChannelAdapter): string[] => [
  adapter.offer
    ? 'The address of a feed, when you offer one'
    : 'Nothing: it fetches a feed from an address you give it, or you hand the file over',
];
