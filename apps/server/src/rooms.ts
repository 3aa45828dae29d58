/** What lower rooms are told by those above them at start: how each kind of action is taken back. */
import { undoEditAction } from './catalog/edit.js';
import { undoRulebook } from './channels/rulebooks.js';
import { undoSetup } from './channels/undo.js';
import { registerUndo } from './history/undo.js';
import { undoPins } from './listings/pins.js';
import { undoDecision } from './matching/decide.js';
import { undoSplitDoubted } from './matching/doubted.js';
import { undoOurNumbers } from './matching/numbers.js';
import { undoTrust } from './matching/trust.js';
import { undoServing } from './stock/serves.js';
import { undoStock } from './stock/service.js';

export function registerRooms(): void {
  registerUndo('edit', undoEditAction);
  registerUndo('match', undoDecision);
  registerUndo('split-doubted', undoSplitDoubted);
  registerUndo('our-numbers', undoOurNumbers);
  registerUndo('trust', undoTrust);
  registerUndo('stock', async ({ tx, actionId }) => ({ left: await undoStock(tx, actionId) }));
  registerUndo('serves', async ({ tx, actionId }) => ({ left: await undoServing(tx, actionId) }));
  registerUndo('pin', async ({ tx, actionId }) => ({ left: await undoPins(tx, actionId) }));
  registerUndo('map-category', async ({ tx, actionId }) => ({ left: await undoSetup(tx, actionId) }));
  registerUndo('fill', async ({ tx, actionId }) => ({ left: await undoSetup(tx, actionId) }));
  registerUndo('take-rulebook', async ({ tx, actionId }) => ({ left: await undoRulebook(tx, actionId) }));
}
