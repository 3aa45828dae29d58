/** What is wrong with goods that are to be made by hand, each fault at its field. */
import type { ByHand } from '@velvet-shelf/contract';
import { axisKindOf, isComputed, siblingFaults } from '@velvet-shelf/core/catalog';
import { foldText, keyOf, readTyped } from '@velvet-shelf/core/values';
import { and, asc, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import type { Executor } from '../../db/client.js';
import type { Dictionary } from '../../dictionary/dictionary.js';
import type { Pointed } from '../../http/problem.js';
import { recordKey } from '../try/try.js';
import type { Column } from './columns.js';
import { type Growing, axisFaults } from './growing.js';
import * as tables from '../../db/schema/index.js';

/** Before anything is written. */
export function faultsOf(given: ByHand, dictionary: Dictionary, growing: Growing | undefined): Pointed[] {
  const { shared, axes, variants } = given;
  const faults: Pointed[] = [];
  const say = (pointer: string, detail: string) => faults.push({ pointer: `/body/${pointer}`, detail });
  for (const [i, { attribute: key, text }] of shared.entries()) {
    const attribute = dictionary.attributes.get(key);
    if (!attribute || isComputed(key)) say(`shared/${i}`, `There is no attribute “${key}” that can be typed`);
    else {
      const read = readTyped(text, attribute);
      if ('reason' in read) say(`shared/${i}/text`, `${attribute.label}: ${read.reason}`);
    }
  }
  const twice = axes.findIndex((axis, i) => axes.findIndex((other) => foldText(other) === foldText(axis)) < i);
  if (twice >= 0) say(`axes/${twice}`, `There are two options named ${axes[twice]}`);
  const seen = new Map<string, number>();
  const gtinAttribute = dictionary.attributes.get(keyOf(dictionary.attributes, 'gtin') ?? '');
  for (const [i, { sku, options, gtin }] of variants.entries()) {
    const number = gtin === '' || !gtinAttribute ? undefined : readTyped(gtin, gtinAttribute);
    if (number && 'reason' in number) say(`variants/${i}/gtin`, number.reason);
    const before = seen.get(recordKey(sku));
    if (before !== undefined) say(`variants/${i}/sku`, `Variant ${before + 1} has the SKU ${sku} already`);
    else seen.set(recordKey(sku), i);
    if (options.length !== axes.length)
      say(`variants/${i}/options`, `${sku} needs ${axes.length} values, one for each option; it has ${options.length}`);
  }
  const unlike = growing && axisFaults(growing, given);
  if (unlike !== undefined) say('axes', unlike);
  if (axes.length === 0 && variants.length > 1)
    say('axes', 'Several variants are told apart by an option: give it a name, and each of them a value');
  if (faults.length > 0) return faults;
  const attributes = [...dictionary.attributes.values()].map((one) => ({ ...one, role: one.role ?? null }));
  const held = growing?.siblings ?? [];
  const alike = siblingFaults(
    axes.map((key) => ({ key, kind: axisKindOf(key, attributes) })),
    // Those that are there have numbers below 0, and stand first.
    [
      ...held.map(({ options }, i) => ({ id: i - held.length, options: Object.fromEntries(options) })),
      ...variants.map(({ options }, id) => ({
        id,
        options: Object.fromEntries(axes.map((axis, i) => [axis, options[i]])),
      })),
    ],
  ).filter(({ kind }) => kind === 'duplicate-combination');
  const numberOf = (id: number) => (id < 0 ? held[id + held.length] : variants[id])?.sku ?? '';
  for (const { variants: same, values } of alike)
    for (const id of same.slice(1))
      if (id >= 0)
        say(
          `variants/${id}/options`,
          `${numberOf(id)} is the same as ${numberOf(same[0] ?? 0)}: ${values?.join(', ')}`,
        );
  return faults;
}

/** Numbers that goods of ours have already. */
export async function takenNumbers(
  on: Executor,
  own: number,
  { variants }: ByHand,
  { attributes }: Dictionary,
): Promise<Pointed[]> {
  const keys = variants.map(({ sku }) => recordKey(sku));
  const records = await on
    .select({ key: tables.record.key })
    .from(tables.record)
    .where(
      and(eq(tables.record.supplierId, own), inArray(tables.record.key, keys), isNotNull(tables.record.contentId)),
    );
  const products = await on
    .select({ key: sql<string>`${tables.product.sku}` })
    .from(tables.product)
    .where(
      and(
        inArray(
          tables.product.sku,
          variants.map(({ sku }) => sku),
        ),
        eq(tables.product.stands, true),
      ),
    );
  const taken = new Set([...records, ...products].map(({ key }) => recordKey(key)));
  const label = attributes.get(keyOf(attributes, 'sku') ?? '')?.label ?? 'SKU';
  return variants.flatMap(({ sku }, i) =>
    taken.has(recordKey(sku))
      ? [{ pointer: `/body/variants/${i}/sku`, detail: `Goods with the ${label} ${sku} are there already` }]
      : [],
  );
}

/** What the dry run refused or would lose, at the variant it was met at. */
export async function lostOf(on: Executor, batchId: number, columns: readonly Column[]): Promise<Pointed[]> {
  const rows = await on
    .select({ reasons: tables.batchRow.reasons, notes: tables.batchRow.notes, outcome: tables.batchRow.outcome })
    .from(tables.batchRow)
    .where(eq(tables.batchRow.batchId, batchId))
    .orderBy(asc(tables.batchRow.row));
  return rows.flatMap(({ reasons, notes, outcome }, i) => {
    const pointer = `/body/variants/${i}`;
    const lost = (notes ?? [])
      .filter((note) => note.lost)
      .map(({ column, note }): Pointed => {
        const field = columns.find(({ head }) => head === column)?.field;
        return field ? { pointer: `${pointer}/${field}`, detail: note } : { pointer, detail: `${column}: ${note}` };
      });
    const all = [...(reasons ?? []).map((detail) => ({ pointer, detail })), ...lost];
    return all.length > 0 || outcome === 'created'
      ? all
      : [{ pointer, detail: 'Goods with this SKU are there already' }];
  });
}
