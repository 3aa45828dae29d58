/** Goods set aside: out of sight, or with some notices muted, until a day or for good; and brought back. */
import { type AsideFields, type Chosen, type Effect, asideFields } from '@velvet-shelf/contract';
import { canonical, keyOf, listOf } from '@velvet-shelf/core/values';
import { and, eq, gt, inArray, or, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, isIn } from '../db/client.js';
import { todayText } from '../db/clock.js';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { type Acting, act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { chosenGoods } from './chosen.js';
import { idleStates } from './filter.js';
import { editing } from './edit.js';
import { unitsOf } from './units.js';

const { setAside } = tables;
/** As the history keeps it. */
const asideDelta = z.record(z.string(), z.array(z.unknown()));
const asideOrNone = asideFields.nullable();
type Aside = z.output<typeof asideOrNone>;
const field = '#aside';
const sayGoods = (n: number) => `${n} ${n === 1 ? 'product' : 'products'}`;
/** Of what sells every day. */
const sells = 'selling';

export async function putAside(
  services: Services,
  user: User,
  chosen: Chosen,
  aside: AsideFields,
): Promise<{ variants: number }> {
  if (aside.until !== null && aside.until <= todayText())
    throw badRequest('The day they are back is past', [
      { pointer: '/body/aside/until', detail: 'Give a day that is still to come' },
    ]);
  const { answer } = await act(services, user, { kind: 'set-aside', tells: ['catalog', 'counts'] }, async (on) => {
    const { variants, units } = await chosenGoods(on.tx, chosen);
    await change(on, variants, aside);
    on.say(`Set ${sayGoods(variants.length)} aside${aside.until === null ? '' : ` until ${aside.until}`}`);
    await on.dirty(units);
    return { variants: variants.length };
  });
  return answer;
}

/** Brings goods back: nothing of them is set aside, and what was paused or withdrawn sells again. */
export async function bringBack(
  services: Services,
  user: User,
  chosen: Chosen,
): Promise<Effect & { variants: number }> {
  const dictionary = await loadDictionary(services.db);
  const state = keyOf(dictionary.attributes, 'state');
  const states = listOf(dictionary.attributes, 'state');
  const { answer, effect } = await act(
    services,
    user,
    { kind: 'bring-back', tells: ['catalog', 'counts'] },
    async (on) => {
      const { variants, units } = await chosenGoods(on.tx, chosen);
      await change(on, variants, null);
      const idle = await on.tx
        .select({ id: tables.product.id, state: tables.product.state })
        .from(tables.product)
        .where(and(isIn(tables.product.id, variants), inArray(tables.product.state, idleStates)));
      if (state !== undefined && idle.length > 0) {
        const edits = idle.map(({ id, state: held }) => ({
          productId: id,
          edits: [{ attribute: state, text: states.say(sells), madeAgainst: held === null ? null : states.say(held) }],
        }));
        await editing(edits, user, dictionary)(on);
      }
      on.say(`Brought ${sayGoods(variants.length)} back`);
      await on.dirty(units);
      return variants.length;
    },
  );
  return { ...effect, variants: answer };
}

async function change({ tx, change: keep }: Pick<Acting, 'tx' | 'change'>, products: readonly number[], to: Aside) {
  const held = await asideOf(tx, products);
  const changed = products.filter((id) => canonical(held.get(id) ?? null) !== canonical(to));
  await write(tx, changed, to);
  keep(...changed.map((id) => ({ kind: 'product' as const, id, delta: { [field]: [held.get(id) ?? null, to] } })));
}

async function asideOf(tx: Executor, products: readonly number[]): Promise<Map<number, AsideFields>> {
  const rows = await tx.select().from(setAside).where(isIn(setAside.productId, products)).for('update');
  return new Map(rows.map(({ productId, ...aside }) => [productId, aside]));
}

async function write(tx: Executor, products: readonly number[], to: Aside): Promise<void> {
  if (products.length === 0) return;
  if (to === null) {
    await tx.delete(setAside).where(isIn(setAside.productId, products));
    return;
  }
  await tx
    .insert(setAside)
    .select(
      tx
        .select({
          productId: tables.product.id,
          sight: sql<boolean>`${to.sight}::boolean`.as('sight'),
          findings: sql<boolean>`${to.findings}::boolean`.as('findings'),
          gaps: sql<boolean>`${to.gaps}::boolean`.as('gaps'),
          until: sql<string | null>`${to.until}::date`.as('until'),
          reason: sql<string>`${to.reason}::text`.as('reason'),
        })
        .from(tables.product)
        .where(isIn(tables.product.id, products)),
    )
    .onConflictDoUpdate({
      target: setAside.productId,
      set: {
        sight: sql`excluded.sight`,
        findings: sql`excluded.findings`,
        gaps: sql`excluded.gaps`,
        until: sql`excluded.until`,
        reason: sql`excluded.reason`,
      },
    });
}

/** Sets goods aside again, or brings them back, where nobody has changed that since. */
export async function undoAside({ tx, actionId, dirty }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const changed = await changesOf(tx, actionId, 'product', asideDelta);
  const groups = new Map<string, { to: Aside; products: number[] }>();
  const held = await asideOf(
    tx,
    changed.map(({ id }) => id),
  );
  for (const { id, delta } of changed) {
    const [before = null, after = null] = delta[field] ?? [];
    if (!(field in delta)) continue;
    if (canonical(held.get(id) ?? null) !== canonical(after)) {
      left.push(`product ${id}: set aside otherwise since`);
      continue;
    }
    const to = asideOrNone.parse(before);
    const key = canonical(to);
    groups.set(key, { to, products: [...(groups.get(key)?.products ?? []), id] });
  }
  for (const { to, products } of groups.values()) await write(tx, products, to);
  await dirty(
    await unitsOf(
      tx,
      changed.map(({ id }) => id),
    ),
  );
  return { left };
}

/** What is set aside of a product now; null where nothing is. */
export async function asideNow(on: Executor, id: number): Promise<AsideFields | null> {
  const { sight, findings, gaps, until, reason } = setAside;
  const [row] = await on
    .select({ sight, findings, gaps, until, reason })
    .from(setAside)
    .where(and(eq(setAside.productId, id), or(isNull(until), gt(until, sql`CURRENT_DATE`))));
  return row ?? null;
}
