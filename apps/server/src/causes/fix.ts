/** Fixing a cause: what a fix changes, tried before it is saved. */
import { type Fix, type Effect } from '@velvet-shelf/contract';
import { type Fill, withTranslation } from '@velvet-shelf/core/fills';
import { type Cause, causeKey, slotOf } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { type ProductEdits, saveEdits, tryEdits } from '../catalog/edit.js';
import { type SetupChange } from '../channels/setup.js';
import type { PlaceRow } from '../channels/places.js';
import { unpin } from '../listings/pins.js';
import { tryChange } from '../listings/what-if.js';
import { type Database } from '../db/client.js';
import { addEffects, noEffect } from '../history/effect.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { catalogLabel, fallBackTo, mendingStep } from '@velvet-shelf/core/causes';
import { saveCategories } from '../channels/categories.js';
import { currentFill, saveFill } from '../channels/fills.js';
import { reached } from '../channels/reach.js';
import { everywhere } from '../channels/slots.js';
import { cellSlot, readAxisFix } from './remedy.js';
import { type Scene, scene, touchedBy, mustParse, placeOf } from './scene.js';

type Elsewhere = Extract<Cause, { kind: 'catalog' | 'report' | 'assortment' }>;
const elsewhere: readonly Cause['kind'][] = ['catalog', 'report', 'assortment'] satisfies Elsewhere['kind'][];

/** Listings of a cause that a fix is tried on. */
const mostTouched = 100_000;

/** Mended where the cause leads to, not by a change of set-up made here. */
const isElsewhere = (cause: Cause): cause is Elsewhere => elsewhere.includes(cause.kind);

/** The change of set-up a fix amounts to; undefined for cells. */
async function setupChange(
  db: Database,
  all: Scene,
  cause: Cause,
  fix: Fix,
): Promise<{ place: PlaceRow; change: SetupChange } | undefined> {
  if (isElsewhere(cause)) return undefined;
  const place = placeOf(all, cause);
  if (cause.kind === 'map-category') {
    if (fix.kind !== 'choose') throw badRequest('Choose a category');
    const categories = new Map([[cause.category, { target: fix.value }]]);
    return { place, change: { categories, ...(cause.market === '' ? {} : { mapsIn: cause.market }) } };
  }
  if (cause.kind === 'axis') {
    const { axis, source } = readAxisFix(fix.kind === 'choose' ? fix.value : '');
    if (!all.rulebooks.get(place.id)?.attributes.some(({ key }) => key === axis))
      throw badRequest('Choose what tells the variants apart');
    const slot = everywhere(axis);
    const fill = fallBackTo(await currentFill(db, place.channelId, slot), source);
    return { place, change: { fills: [{ ...slot, fill }] } };
  }
  if (cause.kind === 'pin') {
    if (fix.kind !== 'fit') throw badRequest('Say another value for some of them, or let all follow the fill again');
    const touched = await touchedBy(db, causeKey(cause), mostTouched);
    const at = all.places.find(({ id }) => id === touched[0]?.place_id) ?? place;
    const variants = touched.flatMap((row) => (row.place_id === at.id ? [row.product] : []));
    return { place: at, change: { unpinned: { attribute: cause.attribute, variants } } };
  }
  const slot = { attribute: cause.attribute, ...slotOf(cause) };
  const before = await currentFill(db, place.channelId, slot);
  const fill = fixedFill(cause, fix, before, all.rulebooks.get(place.id));
  return fill && { place, change: { fills: [{ ...slot, fill }] } };
}

function fixedFill(
  cause: Extract<Cause, { kind: 'fill' | 'translate' | 'fit' }>,
  fix: Fix,
  before: Fill | null,
  rulebook: Rulebook | undefined,
): Fill | undefined {
  if (fix.kind === 'cells') return undefined;
  if (cause.kind === 'fill') {
    if (fix.kind !== 'fill') throw badRequest('Choose where the value comes from');
    if (fix.source) return { rule: { kind: 'copy', from: fix.source }, fit: [] };
    if (fix.fixed) return { rule: { kind: 'fixed', value: fix.fixed }, fit: [] };
    throw badRequest('Choose a source or give a fixed value');
  }
  if (!before) throw badRequest('This attribute has no fill any more');
  if (cause.kind === 'translate') {
    if (fix.kind !== 'choose') throw badRequest('Choose a value');
    const rule = withTranslation(before.rule, cause.value, fix.value);
    if (!rule) throw badRequest('The value comes from a fixed or composed fill: change the fill itself');
    return { ...before, rule };
  }
  const asked = rulebook?.attributes.find((attribute) => attribute.key === cause.attribute);
  const mending = mendingStep(cause.check, asked?.limits ?? {});
  if (!mending) throw badRequest('No step of a fill mends this: correct the goods');
  return { ...before, fit: [...before.fit, mending.step] };
}

type Cells = Extract<Fix, { kind: 'cells' }>['cells'];

/** The edits that cells of a cause amount to, and the attribute they are of. */
async function editsOf(
  db: Database,
  all: Scene,
  cause: Cause,
  cells: Cells,
): Promise<{ attribute: string; edits: ProductEdits[] }> {
  const slot = await cellSlot(db, all, cause, await touchedBy(db, causeKey(cause), 1));
  if (!slot) throw badRequest('This cause is not mended by editing products');
  const language = slot.language ?? null;
  return {
    attribute: slot.attribute,
    edits: cells.map(({ productId, text, madeAgainst }) => ({
      productId,
      edits: [{ attribute: slot.attribute, language, text, madeAgainst }],
    })),
  };
}

export async function tryFix(
  { db, config }: Pick<Services, 'db' | 'config'>,
  user: Pick<User, 'id'>,
  key: string,
  fix: Fix,
): Promise<Effect> {
  const all = await scene(db);
  const cause = mustParse(key);
  if (fix.kind === 'cells') return tryEdits({ db, config }, user, (await editsOf(db, all, cause, fix.cells)).edits);
  const planned = await setupChange(db, all, cause, fix);
  if (!planned) throw badRequest('This fix does not belong to this cause');
  const touched = await touchedBy(db, key, mostTouched);
  let effect = noEffect();
  for (const { place, change } of await reached(db, planned.place, planned.change)) {
    const units = [...new Set(touched.flatMap((row) => (row.place_id === place.id ? row.unit : [])))];
    if (units.length === 0) continue;
    effect = addEffects(effect, (await tryChange(db, place, all.dictionary, config.address, change, units)).effect);
  }
  return effect;
}

/** What a channel calls one of its attributes. */
const labelAt = ({ rulebooks }: Scene, { id }: PlaceRow, key: string): string =>
  rulebooks.get(id)?.attributes.find((each) => each.key === key)?.label ?? key;

export async function saveFix(services: Services, user: User, key: string, fix: Fix): Promise<Effect> {
  const all = await scene(services.db);
  const cause = mustParse(key);
  if (fix.kind === 'cells') {
    const { attribute, edits } = await editsOf(services.db, all, cause, fix.cells);
    const label =
      cause.kind === 'pin'
        ? labelAt(all, placeOf(all, cause), cause.attribute)
        : catalogLabel(attribute, all.dictionary.attributes);
    const words = `Set ${label} of ${fix.cells.length} ${fix.cells.length === 1 ? 'product' : 'products'}`;
    return saveEdits(services, user, edits, words);
  }
  const planned = await setupChange(services.db, all, cause, fix);
  if (!planned) throw badRequest('This fix does not belong to this cause');
  const { unpinned } = planned.change;
  if (unpinned) {
    const label = labelAt(all, planned.place, unpinned.attribute);
    return unpin(services, user, planned.place, { ...unpinned, label });
  }
  const { categories = [], mapsIn } = planned.change;
  const maps = [...categories].map(([category, to]) => ({ category, ...to }));
  if (maps.length > 0) return saveCategories(services, user, planned.place.id, maps, mapsIn);
  const [fill] = planned.change.fills ?? [];
  if (!fill) throw badRequest('Nothing to save');
  return saveFill(services, user, planned.place.id, fill);
}
