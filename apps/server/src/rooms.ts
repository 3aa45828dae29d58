/** What lower rooms are told by those above them at start: jobs, how each kind of action is taken back, what is edited and evaluated. */
import { undoEditAction } from './catalog/edit.js';
import { registerField } from './catalog/fields.js';
import { undoRulebook } from './channels/rulebooks.js';
import { undoFill, undoMaps } from './channels/undo.js';
import { feedJobs } from './feeds/jobs.js';
import { registerSettling } from './history/settle.js';
import { registerLongUndo, registerUndo } from './history/undo.js';
import { intakeCalls, intakeJobs } from './intake/jobs.js';
import { undoAppliedAction } from './intake/service.js';
import { apart } from './jobs/aside.js';
import { causeCalls } from './causes/jobs.js';
import { registerCalls, registerJobs } from './jobs/define.js';
import { drain } from './listings/evaluate.js';
import { evaluateDirty, listingCalls } from './listings/jobs.js';
import { undoPins } from './listings/pins.js';
import { undoDecision } from './matching/decide.js';
import { undoSplitDoubted } from './matching/doubted.js';
import { matchingJobs } from './matching/jobs.js';
import { undoOurNumbers } from './matching/numbers.js';
import { undoTrust } from './matching/trust.js';
import { editPrice } from './prices/edit.js';
import { editStock } from './stock/edit.js';
import { undoOffersOf } from './stock/offers.js';
import { undoServing } from './stock/serves.js';
import { undoStock } from './stock/service.js';

export function registerRooms(): void {
  registerJobs([...intakeJobs, ...matchingJobs, ...feedJobs]);
  registerCalls([...intakeCalls, ...listingCalls, ...causeCalls]);
  registerSettling({ here: drain, aside: (services, most) => apart(evaluateDirty, services, most) });
  registerField('price', editPrice('regular'));
  registerField('salePrice', editPrice('sale'));
  registerField('stock', editStock);
  registerUndo('edit', undoOffersOf, undoEditAction);
  registerUndo('match', undoDecision);
  registerUndo('split-doubted', undoSplitDoubted);
  registerUndo('our-numbers', undoOurNumbers);
  registerUndo('trust', undoTrust);
  registerUndo('stock', undoOffersOf, undoStock);
  registerUndo('serves', undoServing);
  registerUndo('pin', undoPins);
  registerUndo('map-category', undoMaps);
  registerUndo('fill', undoFill);
  registerUndo('take-rulebook', undoRulebook);
  registerLongUndo('apply-batch', undoAppliedAction);
}
