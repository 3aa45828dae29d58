export * from './model.js';
export * from './schema.js';
export * from './compare.js';
export * from './exchange.js';
