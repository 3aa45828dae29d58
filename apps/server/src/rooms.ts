/** What lower rooms are told by those above them at start: jobs, how each kind of action is taken back, what is edited and evaluated. */
import { undoAside } from './catalog/aside.js';
import { undoEditAction } from './catalog/edit.js';
import { registerField } from './catalog/fields.js';
import { undoOptions } from './catalog/options.js';
import { undoView } from './catalog/saved-views.js';
import { undoRate } from './company/rates.js';
import { undoSupplier } from './company/suppliers.js';
import { catalogCalls, catalogJobs } from './catalog/jobs.js';
import { registerFollowing, startResolving } from './catalog/resolve-all.js';
import { undoDictionary } from './dictionary/attributes.js';
import { dictionaryCalls } from './dictionary/jobs.js';
import { registerResolving } from './history/follow.js';
import { undoLists } from './dictionary/values.js';
import { undoAssortment } from './channels/assortment.js';
import { channelCalls } from './channels/jobs.js';
import { undoRulebook } from './channels/taking.js';
import { undoPresets } from './channels/presets.js';
import { undoFill, undoMaps } from './channels/undo.js';
import { enrichmentCalls, enrichmentJobs } from './enrichment/jobs.js';
import { feedJobs } from './feeds/jobs.js';
import { registerSettling } from './history/settle.js';
import { registerLongUndo, registerUndo } from './history/undo.js';
import { intakeCalls, intakeJobs } from './intake/jobs.js';
import { undoRemoval } from './intake/remove.js';
import { undoMerge } from './intake/suppliers/merge.js';
import { undoAppliedAction } from './intake/service.js';
import { apart } from './jobs/aside.js';
import { causeCalls } from './causes/jobs.js';
import { registerCalls, registerJobs } from './jobs/define.js';
import { drainIn } from './listings/drain.js';
import { editPins, pinAttribute } from './listings/cells.js';
import { evaluateDirty, listingCalls } from './listings/jobs.js';
import { undoPins } from './listings/pins.js';
import { undoDecision } from './matching/decide.js';
import { undoSplitDoubted } from './matching/doubted.js';
import { undoPlacing } from './matching/families.js';
import { matchingJobs } from './matching/jobs.js';
import { undoOurNumbers } from './matching/numbers.js';
import { undoTrust } from './matching/trust.js';
import { undoCompany } from './moving-in/company.js';
import { refreshOffers } from './prices/columns.js';
import { editPrice } from './prices/edit.js';
import { editStock } from './stock/edit.js';
import { undoOffersOf } from './stock/offers.js';
import { undoServing } from './stock/serves.js';
import { undoWarehouse } from './stock/warehouses.js';
import { undoStock } from './stock/service.js';

export function registerRooms(): void {
  registerJobs([...catalogJobs, ...intakeJobs, ...matchingJobs, ...enrichmentJobs, ...feedJobs]);
  registerCalls([
    ...catalogCalls,
    ...dictionaryCalls,
    ...channelCalls,
    ...intakeCalls,
    ...listingCalls,
    ...causeCalls,
    ...enrichmentCalls,
  ]);
  registerSettling({ here: drainIn, aside: (services, most) => apart(evaluateDirty, services, most) });
  registerResolving(startResolving);
  registerFollowing(refreshOffers);
  registerField('price', editPrice('regular'));
  registerField('salePrice', editPrice('sale'));
  registerField('stock', editStock);
  registerField(pinAttribute, editPins);
  registerUndo('assortment', undoAssortment);
  registerUndo('company', undoCompany);
  registerUndo('rate', undoRate);
  registerUndo('supplier', undoSupplier);
  registerUndo('merge-suppliers', undoMerge);
  registerUndo('dictionary', undoDictionary, undoLists);
  registerUndo('list', undoLists);
  registerUndo('view', undoView);
  registerUndo('edit', undoOffersOf, undoEditAction, undoPins);
  registerUndo('options', undoOptions);
  registerUndo('set-aside', undoAside);
  registerUndo('bring-back', undoEditAction, undoAside);
  registerUndo('match', undoDecision);
  registerUndo('families', undoPlacing, undoOptions);
  registerUndo('split-doubted', undoSplitDoubted);
  registerUndo('our-numbers', undoOurNumbers);
  registerUndo('trust', undoTrust);
  registerUndo('remove-goods', undoRemoval);
  registerUndo('stock', undoOffersOf, undoStock);
  registerUndo('warehouse', undoWarehouse);
  registerUndo('serves', undoServing);
  registerUndo('pin', undoPins);
  registerUndo('map-category', undoMaps);
  registerUndo('fill', undoFill);
  registerUndo('presets', undoPresets);
  registerUndo('take-rulebook', undoRulebook);
  registerLongUndo('apply-batch', undoAppliedAction);
}
