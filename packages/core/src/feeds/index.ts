export * from './writers.js';
export * from './difference.js';
