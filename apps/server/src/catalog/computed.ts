/** What a computation would give, before anybody keeps it. */
import type { TriedComputation, WantedComputation } from '@velvet-shelf/contract';
import { addComputed } from '@velvet-shelf/core/claims';
import { computedKind, objectionTo } from '@velvet-shelf/core/computed';
import { type Attribute, AliasedMap, formatValue } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Executor, ids, queryRows } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { goods } from './filter.js';
import { heldWithin } from './held.js';

const mostExamples = 8;
/** Stands for the key of an attribute that there is not yet; no key has a space. */
const newKey = 'new one';

/** How many goods hold what it takes, and what comes of it for some of them; or why it cannot be. */
export async function tryComputed(
  on: Executor,
  { computed, attribute: said }: WantedComputation,
  locale?: string,
): Promise<TriedComputation> {
  const dictionary = await loadDictionary(on, locale);
  const { dimension, key = newKey, ...rest } = said;
  const attribute: Attribute = {
    ...rest,
    key,
    group: '',
    level: 'variant',
    ...(dimension ? { dimension } : {}),
    computed,
  };
  const merged = new Map([...dictionary.merged].map(([gone, { into }]) => [gone, into]));
  const attributes = new AliasedMap([...dictionary.attributes, [key, attribute]], merged);
  const objection = objectionTo(computed, attribute, attributes);
  const kind = computedKind(computed.kind);
  if (objection !== undefined || !kind) return { objection: objection ?? '', goods: 0, of: 0, examples: [] };
  const inputs = computed.of.flatMap((input) => {
    const known = attributes.get(input);
    return (known && dictionary.ids.get(known.key)) ?? [];
  });
  const distinct = new Set(inputs);
  const needed = kind.needs === 'any' ? Math.min(1, distinct.size) : distinct.size;
  const found = await queryRows<{ id: number; n: number; all: number }>(
    on,
    sql`WITH held AS (SELECT product_id, count(DISTINCT attribute_id) AS n FROM fact WHERE attribute_id = ANY(${ids([...distinct])}) GROUP BY 1),
          of AS (SELECT p.id, p.unit_id, coalesce(h.n, 0) AS n FROM product p LEFT JOIN held h ON h.product_id = p.id WHERE ${goods}),
          -- One of a family, and from all over the catalog.
          one AS (SELECT DISTINCT ON (unit_id) id, n FROM of ORDER BY unit_id, n DESC, id)
        SELECT id, n, (SELECT count(*) FROM of WHERE n >= ${needed})::int AS "all" FROM one ORDER BY n DESC, hashint8(id) LIMIT ${mostExamples}`,
  );
  const [total] = await queryRows<{ n: number }>(on, sql`SELECT count(*)::int AS n FROM product p WHERE ${goods}`);
  const wanted = found.map(({ id }) => id);
  const { held, units } = await heldWithin(on, wanted, dictionary);
  return {
    objection: null,
    goods: found[0]?.all ?? 0,
    of: total?.n ?? 0,
    examples: wanted.map((id) => {
      const { product, slots } = held(id);
      if (slots.get(key)?.origin.from === 'computed') slots.delete(key);
      addComputed(slots, attributes, {
        variants: units.get(product.unit_id)?.claims.variants.length ?? 1,
        stock: product.stock,
      });
      const slot = slots.get(key);
      return {
        id,
        sku: product.sku,
        title: product.title,
        text: slot?.value === undefined ? null : formatValue(slot.value, attribute, dictionary.reader),
        why: slot?.origin.from === 'computed' ? slot.why : 'said, so it stays',
      };
    }),
  };
}
