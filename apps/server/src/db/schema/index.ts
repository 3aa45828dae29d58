export * from './people.js';
export * from './history.js';
export * from './jobs.js';
export * from './catalog.js';
export * from './intake.js';
export * from './channels.js';
export * from './listings.js';
export * from './feeds.js';
