/** Products out of the tables as core's families. */
import type { Family, Variant } from '@velvet-shelf/core/catalog';
import { shownStock } from '@velvet-shelf/core/stock';
import { sql } from 'drizzle-orm';
import { type Executor, ids, queryRows } from '../db/client.js';
import { stockAt } from '../stock/serves.js';

export interface VariantRow {
  id: number;
  unit_id: number;
  kind: string;
  sku: string | null;
  category: string | null;
  /** On hand where it serves the place, and how much of it no channel is shown. */
  stock: number;
  keptBack: number;
  options: [string, string][];
  hidden: boolean;
  /** Its findings are muted, until this day or for good. */
  muted?: boolean | null;
  mutedUntil?: string | null;
  facts: Variant['facts'];
  offers: Variant['offers'];
  texts: Variant['texts'] | null;
}

export function toVariant(row: VariantRow): Variant {
  return {
    id: row.id,
    sku: row.sku ?? undefined,
    category: row.category ?? undefined,
    facts: row.facts,
    texts: row.texts ?? {},
    offers: row.offers,
    stock: shownStock({ onHand: row.stock, keptBack: row.keptBack }),
    options: row.options,
    isHidden: row.hidden,
    ...(row.muted ? { muted: { until: row.mutedUntil ?? null } } : {}),
  };
}

/** Families of these units as they stand at a place, in the order of their ids. */
export async function loadFamilies(on: Executor, placeId: number, units: readonly number[]): Promise<Family[]> {
  const stock = sql.raw(await stockAt(on, placeId));
  const products = await queryRows<VariantRow>(
    on,
    sql`SELECT p.id, p.unit_id, p.kind, p.sku, p.category, ${stock} AS stock, p.kept_back AS "keptBack", p.options, p.hidden, p.facts, p.offers, t.texts,
          a.findings AS muted, a.until::text AS "mutedUntil"
        FROM product p LEFT JOIN product_text t ON t.product_id = p.id LEFT JOIN set_aside a ON a.product_id = p.id
        WHERE p.unit_id = ANY(${ids(units)}) AND p.kind IN ('variant', 'single') AND p.stands
        ORDER BY p.unit_id, p.id`,
  );
  const families: Family[] = [];
  for (const row of products) {
    let family = families.at(-1);
    if (!family || family.id !== row.unit_id) {
      family = { id: row.unit_id, title: undefined, isSingle: row.kind === 'single', variants: [] };
      families.push(family);
    }
    family.variants.push(toVariant(row));
  }
  return families;
}
