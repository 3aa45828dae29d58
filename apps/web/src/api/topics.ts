/** What is asked again when something changed: by the topic of the notice, the first words of the query keys it concerns. */

/** Goods came, went or changed: what does not show goods, and what one looks up once, stays. */
const notGoods = new Set(['session', 'attributes', 'rulebooks', 'pulls', 'warehouses']);

const touched: Readonly<Record<string, readonly string[]>> = {
  batch: ['batch', 'batches', 'batch-rows', 'shelf', 'today', 'actions', 'suppliers'],
  job: ['shelf', 'batch', 'batches', 'pulls', 'feed', 'feeds', 'suppliers'],
  listings: [
    ...['view-rows', 'product', 'listing', 'listings', 'trace', 'cause', 'causes', 'categories', 'fills'],
    ...['left-out', 'places', 'tree', 'today', 'shelf', 'actions', 'stock', 'warehouses', 'feed', 'feeds'],
  ],
  counts: ['fills', 'categories', 'causes', 'today', 'trust', 'joined', 'view-counts'],
  feeds: ['feed', 'feeds', 'report', 'listing', 'listings', 'cause', 'causes', 'places', 'today', 'shelf', 'actions'],
  matches: ['matches', 'joined', 'unjoined', 'doubted', 'compare', 'today', 'shelf', 'actions', 'suppliers'],
};

/** Whether a query shows what notices of this topic are about; of a topic that is not known, everything is. */
export function isTouched(topic: string, queryKey: readonly unknown[]): boolean {
  const [name] = queryKey;
  const names = touched[topic];
  return typeof name !== 'string' || (names ? names.includes(name) : !notGoods.has(name));
}
