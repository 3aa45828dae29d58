/** Fixing a cause: what a fix changes, tried before it is saved. */
import { type Fix, type Effect } from '@velvet-shelf/contract';
import { type Fill, withTranslation } from '@velvet-shelf/core/fills';
import { type Cause, slotOf } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { type ProductEdits, saveEdits, tryEdits } from '../catalog/edit.js';
import { type SetupChange } from '../channels/setup.js';
import type { PlaceRow } from '../channels/places.js';
import { tryChange } from '../listings/what-if.js';
import { type Database } from '../db/client.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { catalogLabel, fallBackTo, mendingStep } from '@velvet-shelf/core/causes';
import { saveCategories } from '../channels/categories.js';
import { currentFill, saveFill } from '../channels/fills.js';
import { everywhere } from '../channels/slots.js';
import { cellSlot, readAxisFix } from './remedy.js';
import { type Scene, scene, touchedBy, mustParse, placeOf } from './scene.js';

type Elsewhere = Extract<Cause, { kind: 'catalog' | 'report' | 'pin' | 'assortment' }>;
const elsewhere: readonly Cause['kind'][] = ['catalog', 'report', 'pin', 'assortment'] satisfies Elsewhere['kind'][];

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
    return { place, change: { categories: new Map([[cause.category, { target: fix.value }]]) } };
  }
  if (cause.kind === 'axis') {
    const { axis, source } = readAxisFix(fix.kind === 'choose' ? fix.value : '');
    if (!all.rulebooks.get(place.id)?.attributes.some(({ key }) => key === axis))
      throw badRequest('Choose what tells the variants apart');
    const slot = everywhere(axis);
    const fill = fallBackTo(await currentFill(db, place.channelId, slot), source);
    return { place, change: { fills: [{ ...slot, fill }] } };
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
  const slot = await cellSlot(db, all, cause);
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
  const units = [...new Set((await touchedBy(db, key, 100_000)).map((row) => row.unit))];
  const { effect } = await tryChange(db, planned.place, all.dictionary, config.address, planned.change, units);
  return effect;
}

export async function saveFix(services: Services, user: User, key: string, fix: Fix): Promise<Effect> {
  const all = await scene(services.db);
  const cause = mustParse(key);
  if (fix.kind === 'cells') {
    const { attribute, edits } = await editsOf(services.db, all, cause, fix.cells);
    const words = `Set ${catalogLabel(attribute, all.dictionary.attributes)} of ${fix.cells.length} ${fix.cells.length === 1 ? 'product' : 'products'}`;
    return saveEdits(services, user, edits, words);
  }
  const planned = await setupChange(services.db, all, cause, fix);
  if (!planned) throw badRequest('This fix does not belong to this cause');
  const [category] = planned.change.categories ?? [];
  if (category) return saveCategories(services, user, planned.place.id, [{ category: category[0], ...category[1] }]);
  const [fill] = planned.change.fills ?? [];
  if (!fill) throw badRequest('Nothing to save');
  return saveFill(services, user, planned.place.id, fill);
}
