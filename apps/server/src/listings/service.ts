/** Listings as people see them: rows, one with its values, and the trace of any value back to the supplier's cell. */
import type { FindingAnswer, ListingAnswer, ListingRow, TraceAnswer } from '@velvet-shelf/contract';
import { nameOfAuthor } from '@velvet-shelf/core/claims';
import type { Finding } from '@velvet-shelf/core/listings';
import { type Rulebook, sayChannelValue } from '@velvet-shelf/core/rulebooks';
import { foldText } from '@velvet-shelf/core/values';
import { type SQL, sql, eq, and, or, gt, like, count } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import type { ColumnMap } from '@velvet-shelf/core/intake';
import { explainProduct } from '../catalog/product.js';
import { type RecordVersion, columnOf, feeding } from '../claims/versions.js';
import { sayFinding } from '@velvet-shelf/core/causes';
import { goodsOf } from '../channels/slots.js';
import { compileFor } from '../channels/setup.js';
import { type PlaceRow, getPlace, rulebookOf } from '../channels/places.js';
import { type Database, type Executor, containing, first, isAmong } from '../db/client.js';
import { notFound } from '../http/problem.js';
import { kept, nameOf } from '../kept/keep.js';
import type { Services } from '../http/route.js';
import { listWarehouses } from '../stock/serves.js';
import { showStock } from '../stock/service.js';
import { todayText } from '../db/clock.js';
import { loadFamilies } from './families.js';
import * as tables from '../db/schema/index.js';

const listingRows = (db: Executor) =>
  db
    .select({
      id: tables.listing.id,
      placeId: tables.listing.placeId,
      place: tables.place.name,
      variantId: tables.listing.variantId,
      sku: tables.product.sku,
      title: tables.product.title,
      picture: tables.product.picture,
      readiness: tables.listing.readiness,
      channelState: tables.listing.channelState,
      category: tables.listing.category,
      findings: tables.listing.findings,
      collective: tables.listing.collective,
      reported: tables.listing.reported,
      notFor: tables.listing.notFor,
      externalId: tables.listing.externalId,
      pins: sql<string[]>`ARRAY(SELECT attribute FROM pin WHERE pin.listing_id = ${tables.listing.id} ORDER BY 1)`,
    })
    .from(tables.listing)
    .innerJoin(tables.product, eq(tables.product.id, tables.listing.variantId))
    .innerJoin(tables.place, eq(tables.place.id, tables.listing.placeId));

type Row = Awaited<ReturnType<typeof listingRows>>[number];

const allFindings = (row: Row): Finding[] => [...row.findings, ...row.collective, ...row.reported];

const toAnswer = (finding: Finding, rulebook: Rulebook): FindingAnswer => ({
  ...finding,
  words: sayFinding(finding, rulebook),
});

/** States on the channel of a listing that still has to go out, once it is ready. */
export const unsentStates = ['none', 'refused', 'withdrawn'];

export interface ListingFilter {
  place?: number | undefined;
  readiness?: string | undefined;
  channelState?: string | undefined;
  toSend?: 'yes' | undefined;
  pinned?: 'yes' | undefined;
  cause?: string | undefined;
  search?: string | undefined;
}

/** Of rows of `listing` with their `product`: those a filter lets through. */
export function listingsOf(query: ListingFilter): SQL | undefined {
  const { listing, product } = tables;
  return and(
    query.place === undefined ? undefined : eq(listing.placeId, query.place),
    query.readiness ? sql`${listing.readiness} = ${query.readiness}` : undefined,
    query.channelState ? sql`${listing.channelState} = ${query.channelState}` : undefined,
    query.toSend ? and(eq(listing.readiness, 'ready'), isAmong(listing.channelState, unsentStates)) : undefined,
    query.pinned ? sql`EXISTS (SELECT 1 FROM ${tables.pin} WHERE ${tables.pin.listingId} = ${listing.id})` : undefined,
    query.cause ? causeFilter(query.cause) : undefined,
    ...foldText(query.search ?? '')
      .split(' ')
      .filter(Boolean)
      .map((word) => or(like(product.search, containing(word)), sql`lower(${listing.externalId}) = ${word}`)),
  );
}

export async function listListings(
  services: Services,
  query: ListingFilter & { cursor?: string | undefined; limit: number },
) {
  const { db } = services;
  const { listing, product } = tables;
  const where = listingsOf(query);
  const total = await kept(services, nameOf('listings', { ...query, cursor: '', limit: 0 }), () =>
    first(db.select({ n: count() }).from(listing).innerJoin(product, eq(product.id, listing.variantId)).where(where)),
  );
  const found = await listingRows(db)
    .where(and(where, query.cursor ? gt(listing.id, Number(query.cursor)) : undefined))
    .orderBy(listing.id)
    .limit(query.limit + 1);
  const rulebooks = await rulebooksFor(db, found);
  const items = found.slice(0, query.limit).map((row) => toRow(row, rulebooks));
  return { items, next: found.length > query.limit ? String(items.at(-1)?.id) : null, total: total?.n ?? 0 };
}

/** Listings with a finding of this cause, blocking or not. */
export const causeFilter = (cause: string): SQL => {
  const probe = JSON.stringify([{ cause }]);
  const { findings, collective, reported } = tables.listing;
  return sql`(${findings} @> ${probe}::jsonb OR ${collective} @> ${probe}::jsonb OR ${reported} @> ${probe}::jsonb)`;
};

async function rulebooksFor(db: Database, found: Row[]): Promise<Map<number, Rulebook>> {
  const answer = new Map<number, Rulebook>();
  for (const id of new Set(found.map((row) => row.placeId)))
    answer.set(id, await rulebookOf(db, await getPlace(db, id)));
  return answer;
}

function toRow(row: Row, rulebooks: Map<number, Rulebook>): ListingRow {
  const rulebook = rulebooks.get(row.placeId);
  const labels = new Map(rulebook?.attributes.map(({ key, label }) => [key, label]));
  return {
    ...row,
    findings: rulebook ? allFindings(row).map((finding) => toAnswer(finding, rulebook)) : [],
    pinned: row.pins.map((key) => labels.get(key) ?? key),
  };
}

async function evaluated(services: Services, id: number, dictionary: Dictionary) {
  const { db, config } = services;
  const row = await first(listingRows(db).where(eq(tables.listing.id, id)));
  if (!row) throw notFound(`listing ${id}`);
  const place = await getPlace(db, row.placeId);
  const compiled = await compileFor(db, place, dictionary, config.address);
  const unit = await first(
    db.select({ unit: tables.product.unitId }).from(tables.product).where(eq(tables.product.id, row.variantId)),
  );
  const [family] = await loadFamilies(db, place.id, [unit?.unit ?? 0]);
  const variant = family?.variants.find((variant) => variant.id === row.variantId);
  if (!family || !variant) throw notFound(`product of listing ${id}`);
  return { row, place, compiled, family, variant };
}

export async function showListing(services: Services, id: number): Promise<ListingAnswer> {
  const dictionary = await loadDictionary(services.db);
  const { row, place, compiled, family, variant } = await evaluated(services, id, dictionary);
  const { rulebook, pins } = compiled.setup;
  const result = compiled.evaluate(family, todayText()).find((row) => row.variant === variant.id);
  const findings = allFindings(row).map((finding) => toAnswer(finding, rulebook));
  return {
    ...toRow(row, new Map([[row.placeId, rulebook]])),
    picture: row.picture,
    externalId: row.externalId,
    liveAddress: liveAddress(row, place.accountAddress, rulebook),
    values: compiled.attributes(result?.category).map((attribute) => {
      const value = result?.values[attribute.key];
      return {
        attribute: attribute.key,
        label: attribute.label,
        need: attribute.need,
        value: value === undefined ? null : sayChannelValue(value),
        tags: attribute.limits.tags ?? null,
        pinned: pins.get(variant.id)?.[attribute.key] ?? null,
        findings: findings.filter((finding) => finding.attribute === attribute.key),
      };
    }),
  };
}

/** Where a shopper sees the item, once the channel has shown it. */
function liveAddress(row: Row, account: string, { itemPage }: Rulebook): string | null {
  if (row.channelState !== 'live' || row.externalId === null || itemPage === undefined) return null;
  return `${account}${itemPage.replace('{number}', encodeURIComponent(row.externalId))}`;
}

/** From the channel's field back to the supplier's cell, with an edit at each step. */
export async function traceValue(
  services: Services,
  id: number,
  { attribute, locale }: { attribute: string; locale?: string | undefined },
): Promise<{ label: string; steps: TraceAnswer[] }> {
  const { db } = services;
  const dictionary = await loadDictionary(db, locale);
  const { place, compiled, family, variant } = await evaluated(services, id, dictionary);
  const steps: TraceAnswer[] = [];
  const explained = await explainProduct(db, variant.id, dictionary);
  const giving = compiled.giving(family, variant, attribute, todayText());
  const slot = goodsOf(giving.by === 'fill' ? giving.placed : undefined);
  for (const step of compiled.trace(family, variant, attribute, todayText())) {
    const edit: TraceAnswer['edit'] =
      step.at === 'fill' || step.at === 'fit'
        ? { to: 'fill', placeId: place.id, attribute, ...slot }
        : step.at === 'catalog' && step.attribute && step.attribute !== 'stock'
          ? { to: 'product', productId: variant.id, attribute: step.attribute }
          : null;
    steps.push({ at: step.at, words: step.words, value: step.value ?? null, edit });
    if (step.at !== 'catalog' || !step.attribute) continue;
    if (step.attribute === 'stock') steps.push(await stockStep(db, variant.id, place));
    steps.push(...claimSteps(step.attribute, step.language, explained, variant.id, dictionary));
  }
  const label = compiled.setup.rulebook.attributes.find((row) => row.key === attribute)?.label ?? attribute;
  return { label: `${place.channelName} · ${label}`, steps };
}

/** The pieces in each warehouse that serves the place, and what of them no channel is shown. */
async function stockStep(db: Database, variant: number, place: PlaceRow): Promise<TraceAnswer> {
  const { warehouses, reserved, keptBack } = await showStock(db, variant);
  const serving = (await listWarehouses(db)).filter(({ serves }) => serves.includes(place.id));
  const levels = serving.map(({ id, name }) => {
    return `${warehouses.find((warehouse) => warehouse.id === id)?.onHand ?? 0} on hand in ${name}`;
  });
  const words = levels.length > 0 ? levels.join('; ') : `no warehouse serves ${place.name}`;
  return {
    at: 'claim',
    words: `${words}${reserved > 0 ? `; ${reserved} reserved` : ''}; ${keptBack} kept back`,
    value: null,
    edit: { to: 'stock', productId: variant },
  };
}

function claimSteps(
  attribute: string,
  language: string | undefined,
  { slots, sources, unit }: Awaited<ReturnType<typeof explainProduct>>,
  variant: number,
  { attributes, reader }: Dictionary,
): TraceAnswer[] {
  const slotName = language ? `${attribute}@${language}` : attribute;
  const slot = slots.get(slotName);
  const offer = ['price', 'salePrice', 'stock', 'family'].includes(attribute);
  if (!slot) {
    if (!offer) return [];
    const wanted = (map: ColumnMap) =>
      map.find(({ target: target }) =>
        attribute === 'stock' || attribute === 'family'
          ? target.to === attribute
          : target.to === 'price' && target.kind === (attribute === 'price' ? 'regular' : 'sale'),
      )?.column ?? null;
    for (const record of unit.claims.variants.flatMap((row) => (row.id === variant ? row.records : []))) {
      const source = sources.get(record.id);
      const fed = feeding(source, wanted);
      if (source && fed && fed.column !== null) return [rowStep(source.supplier, fed, reader.locale)];
    }
    return [];
  }
  if (slot.origin.from === 'edit')
    return [
      {
        at: 'claim',
        words: `Edited by ${slot.origin.by} on ${dayOf(slot.origin.at, reader.locale)}`,
        value: null,
        edit: null,
      },
    ];
  if (slot.origin.from === 'computed')
    return [{ at: 'claim', words: `Worked out: ${slot.why}`, value: null, edit: null }];
  const source = sources.get(slot.origin.record);
  const steps: TraceAnswer[] = [];
  if (slot.against.length > 0)
    steps.push({
      at: 'claim',
      words: `${slot.origin.source} won over ${slot.against.map(({ origin }) => nameOfAuthor(origin)).join(', ')}: ${slot.why}`,
      value: null,
      edit: null,
    });
  if (slot.inherited) steps.push({ at: 'claim', words: 'Inherited from the family', value: null, edit: null });
  const fed = feeding(source, (map) => columnOf(map, slotName, attributes.get(attribute)?.role === 'sku'));
  if (source && fed) steps.push(rowStep(source.supplier, fed, reader.locale));
  return steps;
}

const dayOf = (at: string, locale: string) =>
  new Date(at).toLocaleDateString(locale, { day: 'numeric', month: 'short', year: 'numeric' });

function rowStep(
  supplier: string,
  { version, column }: { version: RecordVersion; column: string | null },
  locale: string,
): TraceAnswer {
  const cell = column === null ? undefined : version.cells[version.columns.indexOf(column)];
  return {
    at: 'row',
    words: `${supplier}, batch of ${dayOf(version.at, locale)}, ${version.place ?? `row ${version.row}`}${column === null ? '' : `, column “${column}”`}`,
    value: cell === undefined ? null : cell.slice(0, 400),
    edit: { to: 'batch', batchId: version.batchId, row: version.row },
  };
}
