import { accounts } from './accounts.js';
import { asked } from './asked.js';
import { bulk } from './bulk.js';
import { byHand } from './by-hand.js';
import { causes } from './causes.js';
import { catalog } from './catalog.js';
import { channels } from './channels.js';
import { compose } from './compose.js';
import { company } from './company.js';
import { dictionary } from './dictionary.js';
import { enrichment } from './enrichment.js';
import { families } from './families.js';
import { files } from './files.js';
import { feeds } from './feeds.js';
import { intake } from './intake.js';
import { listings } from './listings.js';
import { matching } from './matching.js';
import { movingIn } from './moving-in.js';
import { options } from './options.js';
import { pictures } from './pictures.js';
import { proofreading } from './proofreading.js';
import { savedViews } from './saved-views.js';
import { session } from './session.js';
import { sheet } from './sheet.js';
import { stock } from './stock.js';
import { today } from './today.js';

export { type Endpoint, type Role, mayAs, roles } from './endpoint.js';
export * from './accounts.js';
export * from './asked.js';
export * from './bulk.js';
export * from './by-hand.js';
export * from './causes.js';
export * from './catalog.js';
export * from './channels.js';
export * from './company.js';
export * from './compose.js';
export * from './dictionary.js';
export * from './effect.js';
export * from './enrichment.js';
export * from './families.js';
export * from './feeds.js';
export * from './fills.js';
export * from './files.js';
export * from './intake.js';
export * from './listings.js';
export * from './matching.js';
export * from './moving-in.js';
export * from './options.js';
export * from './own-channels.js';
export * from './presets.js';
export * from './saved-views.js';
export * from './pictures.js';
export * from './proofreading.js';
export * from './session.js';
export * from './sheet.js';
export * from './stock.js';
export * from './today.js';

/** The whole interface of the server, by capability. */
export const api = {
  session,
  company,
  dictionary,
  intake,
  matching,
  catalog,
  sheet,
  savedViews,
  byHand,
  bulk,
  asked,
  options,
  families,
  compose,
  pictures,
  files,
  proofreading,
  enrichment,
  channels,
  accounts,
  listings,
  causes,
  feeds,
  stock,
  movingIn,
  today,
};
