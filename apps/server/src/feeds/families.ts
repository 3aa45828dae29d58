/** All families of a place out of the tables, streamed by COPY in the order of their ids: constant memory, one pass. */
import type { Family } from '@velvet-shelf/core/catalog';
import type pg from 'pg';
import { to } from 'pg-copy-streams';
import { toVariant } from '../listings/families.js';

export interface ListedFamily {
  family: Family;
  /** In the order of the family's variants. */
  listings: { id: number; collectiveBlocks: boolean; causeSet: number | null }[];
}

const query = (placeId: number, stock: string) => `
  COPY (
    SELECT p.id, p.unit_id, p.kind, p.sku, p.category, ${stock}, p.kept_back, p.options, p.hidden, p.facts, p.offers, t.texts,
      l.id, l.collective @> '[{"severity":"blocker"}]', l.cause_set_id
    FROM listing l JOIN product p ON p.id = l.variant_id LEFT JOIN product_text t ON t.product_id = p.id
    WHERE l.place_id = ${Number(placeId)} ORDER BY p.unit_id, p.id
  ) TO STDOUT`;

/** COPY's text format keeps JSON on one line; only its backslashes are doubled. */
const fromCopy = (cell: string) => JSON.parse(cell.includes('\\\\') ? cell.replaceAll('\\\\', '\\') : cell);
const text = (cell: string) =>
  cell === '\\N' ? null : cell.includes('\\') ? (JSON.parse(`"${cell.replaceAll('"', '\\"')}"`) as string) : cell;

/** `stock` is what `stockAt` answers of the place. */
export async function* streamFamilies(
  client: pg.ClientBase,
  placeId: number,
  stock: string,
): AsyncGenerator<ListedFamily> {
  const stream = client.query(to(query(placeId, stock)));
  stream.setEncoding('utf8');
  let rest = '';
  let open: ListedFamily | undefined;
  for await (const chunk of stream as AsyncIterable<string>) {
    const lines = (rest + chunk).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      const cells = line.split('\t');
      const [
        id = '',
        unit = '',
        kind = '',
        sku = '',
        category = '',
        stock = '',
        keptBack = '',
        options = '',
        hidden = '',
        facts = '',
        offers = '',
        texts = '',
        listing = '',
        collective = '',
        causeSet = '',
      ] = cells;
      const unitId = Number(unit);
      if (open && open.family.id !== unitId) {
        yield open;
        open = undefined;
      }
      open ??= { family: { id: unitId, title: undefined, isSingle: kind === 'single', variants: [] }, listings: [] };
      open.family.variants.push(
        toVariant({
          id: Number(id),
          unit_id: unitId,
          kind,
          sku: text(sku),
          category: text(category),
          stock: Number(stock),
          keptBack: Number(keptBack),
          options: options === '[]' ? [] : fromCopy(options),
          hidden: hidden === 't',
          facts: fromCopy(facts),
          offers: offers === '{}' ? {} : fromCopy(offers),
          texts: texts === '\\N' ? null : fromCopy(texts),
        }),
      );
      open.listings.push({
        id: Number(listing),
        collectiveBlocks: collective === 't',
        causeSet: causeSet === '\\N' ? null : Number(causeSet),
      });
    }
  }
  if (open) yield open;
}
