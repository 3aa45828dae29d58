export * from './mapping.js';
export * from './vocabulary.js';
export * from './suggest.js';
export * from './complete.js';
export * from './translations.js';
export * from './rows.js';
export * from './difference.js';
