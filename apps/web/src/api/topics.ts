/** What is asked again when something changed: by the topic of the notice, the endpoints whose answers it concerns. */
import { type Endpoint, api } from '@velvet-shelf/contract';
import { keyOf } from './ask';

const {
  accounts,
  catalog,
  causes,
  channels,
  company,
  dictionary,
  enrichment,
  feeds,
  intake,
  listings,
  matching,
  movingIn,
  proofreading,
  savedViews,
  session,
  sheet,
  stock,
  today,
} = api;

/** Goods came, went or changed: what does not show goods, and what one looks up once, stays. */
const notGoods = [
  ...[session.who, catalog.attributes, channels.rulebooks, intake.pulls, stock.warehouses, company.show],
  ...[sheet.columns, savedViews.list],
];

const touched: Readonly<Record<string, readonly Endpoint[]>> = {
  company: [company.show, company.rates, session.who, movingIn.steps, today.today, today.shelf, today.history],
  dictionary: [
    ...[dictionary.list, dictionary.uses, dictionary.values, dictionary.tree, catalog.attributes, catalog.categories],
    sheet.columns,
    ...[channels.compared, channels.categories, today.shelf, today.history],
  ],
  channels: [
    ...[accounts.show, accounts.exemptions],
    ...[
      channels.list,
      channels.places,
      channels.assortment,
      channels.categories,
      channels.fills,
      channels.presets,
      movingIn.steps,
    ],
    ...[today.today, today.shelf, today.history, stock.warehouses],
  ],
  found: [enrichment.found],
  proofreading: [proofreading.counts, proofreading.words, proofreading.faults],
  views: [savedViews.list, today.shelf, today.history],
  suppliers: [company.suppliers, today.shelf, today.history, matching.trust],
  batch: [
    movingIn.steps,
    intake.batch,
    intake.batches,
    intake.rows,
    today.shelf,
    today.today,
    today.history,
    company.suppliers,
  ],
  job: [today.shelf, intake.batch, intake.batches, intake.pulls, feeds.feed, feeds.list, company.suppliers],
  listings: [
    movingIn.steps,
    ...[catalog.window, catalog.product, listings.listing, listings.list, listings.trace, causes.cause, causes.ranked],
    ...[
      channels.categories,
      channels.fills,
      channels.presets,
      feeds.leftOut,
      channels.places,
      channels.tree,
      today.today,
      today.shelf,
    ],
    ...[today.history, stock.show, stock.warehouses, feeds.feed, feeds.list],
  ],
  counts: [
    ...[
      channels.fills,
      channels.presets,
      channels.categories,
      causes.ranked,
      today.today,
      matching.trust,
      matching.joined,
    ],
    catalog.counts,
  ],
  feeds: [
    movingIn.steps,
    ...[feeds.feed, feeds.list, feeds.report, listings.listing, listings.list, causes.cause, causes.ranked],
    ...[channels.places, today.today, today.shelf, today.history],
  ],
  matches: [
    ...[matching.pairs, matching.joined, matching.unjoined, matching.doubted, matching.compare],
    ...[today.today, today.shelf, today.history, company.suppliers],
  ],
};

const nameOf = (endpoint: Endpoint) => keyOf(endpoint)[0];
const stays = new Set(notGoods.map(nameOf));
const names = new Map(Object.entries(touched).map(([topic, endpoints]) => [topic, new Set(endpoints.map(nameOf))]));

/** Told where nobody knows what changed: the stream was away for longer than the server remembers. */
const unknown = 'everything';

/** Whether a query shows what notices of this topic are about; a topic that is not known is of all goods. */
export function isTouched(topic: string, [name]: readonly unknown[]): boolean {
  return topic === unknown || (names.get(topic)?.has(name) ?? !stays.has(name));
}
