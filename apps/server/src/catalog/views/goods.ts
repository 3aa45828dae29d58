/**
 * The goods of the shelf as views look at them, held in the memory of a thread: what was asked for once is kept, and kept up
 * with what has been written since. Triggers write `changed_goods` with every statement that changes products, so that nobody
 * has to remember to say so; what a transaction that was open at the last look has changed is seen once it has ended.
 */
import { type Attribute, foldText } from '@velvet-shelf/core/values';
import { Bits, Column, Order } from '@velvet-shelf/core/views';
import { type SQL, sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { type Database, ids, queryOne, queryRows } from '../../db/client.js';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import type { ProductRow } from '../draft.js';
import { everyday, goods } from '../filter.js';
import { compileFacts } from '../write.js';

/** What there is of every product beside its values. `found` is what searches look in. */
const ownColumns = {
  sku: sql`p.sku`,
  title: sql`p.title`,
  brand: sql`p.brand`,
  gtin: sql`p.gtin`,
  state: sql`p.state`,
  category: sql`p.category`,
  price: sql`p.price::float8`,
  stock: sql`p.stock`,
  complete: sql`p.complete`,
  found: sql`p.search`,
};
export type OwnColumn = keyof typeof ownColumns;
export const isOwnColumn = (key: string): key is OwnColumn => Object.hasOwn(ownColumns, key);

export type Own = number | string | null;

interface Base {
  id: number;
  unit: number;
  /** A variant or single that stands. */
  isGood: boolean;
  isEveryday: boolean;
}
const baseColumns = sql`p.id, p.unit_id AS unit, (${goods}) AS "isGood", (${everyday}) AS "isEveryday"`;

/** Changed rows beyond which all are read anew when somebody asks again. */
const mostRenewed = 5000;
/** After so long without a look all is read anew, minutes; what changed is kept for longer. */
const longestAway = 30;
const keptMinutes = 24 * 60;

export class HeldGoods {
  /** Of each row, by its number. */
  private readonly ids: number[] = [];
  readonly units: number[] = [];
  readonly isGood: boolean[] = [];
  readonly isEveryday: boolean[] = [];
  private readonly rowOf = new Map<number, number>();
  private readonly own = new Map<OwnColumn, Own[]>();
  private readonly values = new LRUCache<string, { column: Column; attribute: string; language: string }>({ max: 100 });
  private readonly orders = new LRUCache<string, Order>({ max: 16 });
  /** Reading what is new and reading a column exclude each other: what is read is as old as what is held, or newer. */
  private readonly inTurn = oneAfterAnother();
  /** Of comparisons, as long as neither goods nor the dictionary change. */
  private readonly passing = new LRUCache<string, Bits>({ max: 200 });
  private passingBy: Dictionary | undefined;

  private constructor(
    private readonly db: Database,
    /** What was written before this snapshot is held. */
    private seen: string,
    private lookedAt: number,
  ) {}

  static async read(db: Database): Promise<HeldGoods> {
    const snapshot = await queryOne<{ now: string }>(db, sql`SELECT pg_current_snapshot()::text AS now`);
    const held = new HeldGoods(db, snapshot?.now ?? '', performance.now());
    for (const base of await queryRows<Base>(db, sql`SELECT ${baseColumns} FROM product p ORDER BY p.unit_id, p.id`))
      held.put(base);
    return held;
  }

  get size(): number {
    return this.ids.length;
  }

  id(row: number): number {
    return this.ids[row] ?? 0;
  }

  /** The row of the family a row is of, or of a single itself. */
  unitRow(row: number): number | undefined {
    return this.rowOf.get(this.units[row] ?? 0);
  }

  rowsOf(products: readonly number[]): Bits {
    return Bits.of(
      this.size,
      products.flatMap((id) => this.rowOf.get(id) ?? []),
    );
  }

  /** Takes in what has been written since the last look; false where that is too much, and all is to be read anew. */
  renew(): Promise<boolean> {
    return this.inTurn(() => this.takeIn());
  }

  private async takeIn(): Promise<boolean> {
    if (performance.now() - this.lookedAt > longestAway * 60_000) return false;
    const news = await queryRows<{ now: string; isAny: boolean; products: string | null }>(
      this.db,
      sql`SELECT pg_current_snapshot()::text AS now, c.id IS NOT NULL AS "isAny", array_to_string(c.products, ' ') AS products
          FROM (SELECT ${this.seen}::pg_snapshot AS seen) s LEFT JOIN changed_goods c
            ON c.xid >= pg_snapshot_xmin(s.seen) AND NOT pg_visible_in_snapshot(c.xid, s.seen)`,
    );
    const changed = new Set<number>();
    for (const { isAny, products } of news) {
      if (!isAny) continue;
      if (products === null) return false;
      for (const id of products.split(' ')) changed.add(Number(id));
      if (changed.size > mostRenewed) return false;
    }
    if (changed.size > 0) await this.readAgain([...changed]);
    this.seen = news[0]?.now ?? this.seen;
    this.lookedAt = performance.now();
    return true;
  }

  private put({ id, unit, isGood, isEveryday }: Base): number {
    const row = this.rowOf.get(id) ?? this.ids.length;
    this.rowOf.set(id, row);
    this.ids[row] = id;
    this.units[row] = unit;
    this.isGood[row] = isGood;
    this.isEveryday[row] = isEveryday;
    return row;
  }

  private async readAgain(changed: readonly number[]): Promise<void> {
    const names = [...this.own.keys()];
    const found = await queryRows<Base & Record<OwnColumn, Own> & Pick<ProductRow, 'facts' | 'texts'>>(
      this.db,
      sql`SELECT ${baseColumns}, ${sql.join(
        names.map((name) => sql`${ownColumns[name]} AS ${sql.identifier(name)}`).concat(sql`p.facts, t.texts`),
        sql`, `,
      )} FROM product p LEFT JOIN product_text t ON t.product_id = p.id WHERE p.id = ANY(${ids(changed)})`,
    );
    const renewed = new Set<number>();
    const dictionary = this.values.size > 0 ? await loadDictionary(this.db) : undefined;
    // From here on nothing is waited for: others ask meanwhile of what is whole.
    this.passing.clear();
    const gone = new Set(changed);
    for (const product of found) {
      gone.delete(product.id);
      const row = this.put(product);
      renewed.add(row);
      for (const [name, column] of this.own) column[row] = ownKey(name, product[name]);
      if (dictionary) this.putValues(row, product, dictionary);
    }
    for (const id of gone) {
      const row = this.rowOf.get(id);
      if (row !== undefined) this.isGood[row] = false;
    }
    // Variants stand where the title of their family says.
    const units = new Set(found.map(({ id }) => id));
    this.units.forEach((unit, row) => units.has(unit) && renewed.add(row));
    for (const order of this.orders.values()) order.renew(renewed, this.size);
  }

  private putValues(row: number, product: Pick<ProductRow, 'id' | 'facts' | 'texts'>, dictionary: Dictionary): void {
    for (const { column, attribute, language } of this.values.values()) {
      const rows = compileFacts(attribute, dictionary)(product).filter(({ lang }) => lang === language);
      column.set(
        row,
        rows.flatMap(({ num, key }) => num ?? key ?? []),
      );
    }
  }

  /** What each row has there of its own; texts that people read as they are put in order: without accents and capitals. */
  async ownColumn(name: OwnColumn): Promise<readonly Own[]> {
    return this.own.get(name) ?? this.inTurn(async () => this.own.get(name) ?? this.readOwn(name));
  }

  private async readOwn(name: OwnColumn): Promise<readonly Own[]> {
    const column: Own[] = new Array<Own>(this.size).fill(null);
    const found = await queryRows<{ id: number; value: Own }>(
      this.db,
      sql`SELECT p.id, ${ownColumns[name]} AS value FROM product p`,
    );
    for (const { id, value } of found) {
      const row = this.rowOf.get(id);
      if (row !== undefined) column[row] = ownKey(name, value);
    }
    this.own.set(name, column);
    return column;
  }

  /** What the values of an attribute are compared by. */
  async column(attribute: Attribute, language: string, dictionary: Dictionary): Promise<Column> {
    const name = `${attribute.key}@${language}`;
    const known = this.values.get(name);
    if (known) return known.column;
    return this.inTurn(async () => {
      const column = this.values.get(name)?.column ?? (await this.readValues(attribute, language, dictionary));
      this.values.set(name, { column, attribute: attribute.key, language });
      return column;
    });
  }

  private async readValues(attribute: Attribute, language: string, dictionary: Dictionary): Promise<Column> {
    const column = new Column();
    // Where there is no language to tell apart, an index alone answers; there is one for each half.
    const spoken = attribute.perLanguage ? sql`AND lang = ${language}` : sql``;
    const half = (what: SQL) =>
      sql`SELECT product_id AS id, ${what} FROM fact WHERE attribute_id = ${dictionary.ids.get(attribute.key)} ${spoken}`;
    const found = await queryRows<{ id: number; key: string | null; num: number | null }>(
      this.db,
      sql`${half(sql`key, NULL::float8 AS num`)} AND key IS NOT NULL UNION ALL ${half(sql`NULL, num`)} AND num IS NOT NULL`,
    );
    for (const { id, key, num } of found) {
      const row = this.rowOf.get(id);
      const one = num ?? key;
      if (row !== undefined && one !== null) column.add(row, one);
    }
    return column;
  }

  /** Rows that pass a comparison, told apart by `name`: found once until something changes. */
  rowsPassing(name: string, dictionary: Dictionary, find: () => Bits): Bits {
    if (this.passingBy !== dictionary) this.passing.clear();
    this.passingBy = dictionary;
    return made(this.passing, name, find);
  }

  /** Rows in an order that is made once and kept up: `compare` reads what is held at the time. */
  order(name: string, compare: (x: number, y: number) => number): Order {
    return made(this.orders, name, () => new Order(this.size, compare));
  }
}

/** Changes that nobody looks up any more go. */
export async function forgetChanges(db: Database): Promise<void> {
  await db.execute(sql`DELETE FROM changed_goods WHERE at < now() - make_interval(mins => ${keptMinutes})`);
}

const spoken: ReadonlySet<OwnColumn> = new Set(['title', 'brand']);
const ownKey = (name: OwnColumn, value: Own): Own =>
  spoken.has(name) && typeof value === 'string' ? foldText(value) : value;

/** Runs each piece of work when the one before it has ended, well or not. */
function oneAfterAnother(): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (work) => {
    const next = last.then(work, work);
    last = next.catch(() => undefined);
    return next;
  };
}

/** What is held under a name, made where it is not. */
function made<T extends object>(held: LRUCache<string, T>, name: string, make: () => T): T {
  const known = held.get(name) ?? make();
  held.set(name, known);
  return known;
}
