/** What people say of a family's options: kept with the family and its variants, and taken back like any edit. */
import type { Effect, OptionChange, TriedOptions } from '@velvet-shelf/contract';
import {
  type OptionPlan,
  noPlan,
  optionOf,
  optionPlanSchema,
  planDifferences,
  plannedAxis,
} from '@velvet-shelf/core/catalog';
import { canonical } from '@velvet-shelf/core/values';
import { and, eq, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, first, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { type Acting, act, tryAct } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { planOf, saidOptions, sayOptions, writePlan } from './plans.js';
import { resolveAndFollow } from './resolve-all.js';

/** Saves what is said of a family's options as one action; refuses what was made against others than they are now. */
export async function saveOptions(
  services: Services,
  user: User,
  family: number,
  change: OptionChange,
): Promise<Effect> {
  const dictionary = await loadDictionary(services.db);
  const work = (on: Acting) => changeOptions(on, family, change, user.id, dictionary);
  return (await act(services, user, { kind: 'options', tells: ['catalog'] }, work)).effect;
}

/** What saving would do, and how many listings would lose their goods. Nothing is kept. */
export async function tryOptions(
  services: Pick<Services, 'db' | 'config'>,
  user: Pick<User, 'id'>,
  family: number,
  change: OptionChange,
): Promise<TriedOptions> {
  const dictionary = await loadDictionary(services.db);
  let leaving = 0;
  const { left, ...effect } = await tryAct(services, user, { kind: 'options' }, async (on) => {
    await changeOptions(on, family, change, user.id, dictionary);
    leaving = await hiddenListings(on.tx, family);
  });
  return { ...effect, whole: !left, leaving };
}

/** Listings of variants that are hidden and were not before: they are evaluated once the work has ended. */
async function hiddenListings(tx: Executor, family: number): Promise<number> {
  const { listing, product } = tables;
  const counted = await first(
    tx
      .select({ n: sql<number>`count(*)::int` })
      .from(listing)
      .innerJoin(product, eq(product.id, listing.variantId))
      .where(
        and(eq(product.familyId, family), eq(product.hidden, true), ne(listing.readiness, 'not for this channel')),
      ),
  );
  return counted?.n ?? 0;
}

async function changeOptions(
  on: Acting,
  id: number,
  { plan, was, values }: OptionChange,
  actor: number,
  dictionary: Dictionary,
): Promise<void> {
  const { tx } = on;
  const { family, variants } = await lockFamily(tx, id);
  const before = await planOf(tx, id);
  if (canonical(before) !== canonical(was))
    throw stale(`The options of ${family.title ?? 'this family'} were changed meanwhile`, { current: before });
  const said = planDifferences(before, plan);
  const delta = new Map<number, Record<string, unknown[]>>();
  if (canonical(before) !== canonical(plan)) delta.set(id, { '#plan': [planned(before), planned(plan)] });
  await writePlan(tx, id, plan);
  const saidOf = await saidOptions(
    tx,
    values.map(({ variant }) => variant),
  );
  for (const { variant, axis, value, was: against } of values) {
    const held = variants.get(variant);
    if (!held) throw badRequest(`Product ${variant} is no variant of ${family.title ?? 'this family'}`);
    const has = valueOn(held, axis, before);
    if (has !== against)
      throw stale(`${axis} of ${held.sku ?? 'a variant'} was changed meanwhile: it is now “${has ?? 'empty'}”`, {
        current: has,
        yours: value,
      });
    const field = `#option ${axis}`;
    if (delta.get(variant)?.[field]) throw badRequest(`${axis} of ${held.sku ?? 'a variant'} stands there twice`);
    delta.set(variant, { ...delta.get(variant), [field]: [saidOf(variant, axis), { value }] });
  }
  await sayOptions(
    tx,
    values.map(({ variant, axis, value }) => ({ variant, axis, said: { value } })),
    actor,
  );
  if (delta.size === 0) return;
  for (const axis of new Set(values.map((each) => each.axis)))
    said.push(`${axis} of ${sayVariants(values.filter((each) => each.axis === axis).length)} was set`);
  on.say(sayChange(family.title, said));
  on.change(...[...delta].map(([product, fields]) => ({ kind: 'product' as const, id: product, delta: fields })));
  await follow(on, [id], dictionary);
}

const sayVariants = (n: number) => `${n} ${n === 1 ? 'variant' : 'variants'}`;

function sayChange(title: string | null, [saying, ...others]: readonly string[]): string {
  return `Options of ${title ?? 'a family'}: ${saying ?? 'changed'}${others.length > 0 ? `, and ${others.length} more` : ''}`;
}

/** Goods follow what is said of their options: values, prices, listings. */
async function follow(
  { tx, change, dirty }: Pick<Acting, 'tx' | 'change' | 'dirty'>,
  families: number[],
  dictionary: Dictionary,
) {
  change(...(await resolveAndFollow(tx, families, dictionary)));
  await dirty(families);
}

/** A family with its variants, nobody else changing them meanwhile. */
async function lockFamily(tx: Executor, id: number) {
  const rows = await tx
    .select({
      id: tables.product.id,
      kind: tables.product.kind,
      title: tables.product.title,
      sku: tables.product.sku,
      options: tables.product.options,
    })
    .from(tables.product)
    .where(and(eq(tables.product.unitId, id), eq(tables.product.stands, true)))
    .orderBy(tables.product.id)
    .for('update');
  const family = rows.find((row) => row.id === id);
  if (family?.kind !== 'family') throw notFound(`family ${id}`);
  return { family, variants: new Map(rows.filter((row) => row.id !== id).map((row) => [row.id, row])) };
}

const planned = (plan: OptionPlan): OptionPlan | null => (plan.axes.length === 0 ? null : plan);

/** What a variant has on an axis, by any name the plan has for that. */
const valueOn = (
  { id, options }: { id: number; options: [string, string][] },
  axis: string,
  plan: OptionPlan,
): string | null =>
  optionOf({ id, options: Object.fromEntries(options) }, plannedAxis(plan, axis)?.name ?? axis) ?? null;

const optionDelta = z.record(z.string(), z.array(z.unknown()));
const saidSchema = z.object({ value: z.string().nullable() }).nullable();
const planOrNothing = optionPlanSchema.nullable().transform((plan) => plan ?? noPlan);

/** Puts plans and values back as they were, where nobody has changed them since. */
export async function undoOptions({ tx, actionId, actor, dirty }: Undoing): Promise<Undone> {
  const dictionary = await loadDictionary(tx);
  const left: string[] = [];
  const changed = await changesOf(tx, actionId, 'product', optionDelta);
  const saidOf = await saidOptions(
    tx,
    changed.map(({ id }) => id),
  );
  const back: Parameters<typeof sayOptions>[1][number][] = [];
  for (const { id, delta } of changed)
    for (const [field, [before, after]] of Object.entries(delta)) {
      if (field === '#plan') {
        if (canonical(planned(await planOf(tx, id))) === canonical(after))
          await writePlan(tx, id, planOrNothing.parse(before));
        else left.push('Options of the family: changed since');
      } else if (field.startsWith('#option ')) {
        const axis = field.slice('#option '.length);
        if (canonical(saidOf(id, axis)) === canonical(after))
          back.push({ variant: id, axis, said: saidSchema.parse(before) });
        else left.push(`${axis}: changed since`);
      }
    }
  await sayOptions(tx, back, actor);
  const families = await tx
    .selectDistinct({ id: tables.product.unitId })
    .from(tables.product)
    .where(
      and(
        isIn(
          tables.product.id,
          changed.map(({ id }) => id),
        ),
        eq(tables.product.stands, true),
      ),
    );
  const changes: NonNullable<Undone['changes']> = [];
  await follow(
    { tx, dirty, change: (...more) => changes.push(...more) },
    families.map(({ id }) => id),
    dictionary,
  );
  return { left, changes };
}
