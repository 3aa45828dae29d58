export * from './mapping.js';
export * from './suggest.js';
export * from './rows.js';
export * from './difference.js';
