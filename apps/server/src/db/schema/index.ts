/** Every table, a file a room. */
export * from './company.js';
export * from './session.js';
export * from './http.js';
export * from './history.js';
export * from './jobs.js';
export * from './kept.js';
export * from './media.js';
export * from './claims.js';
export * from './catalog.js';
export * from './prices.js';
export * from './stock.js';
export * from './channels.js';
export * from './listings.js';
export * from './causes.js';
export * from './matching.js';
export * from './intake.js';
export * from './feeds.js';
