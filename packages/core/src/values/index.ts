export * from './canonical.js';
export * from './model.js';
export * from './folding.js';
export * from './numbers.js';
export * from './units.js';
export * from './gtin.js';
export * from './markup.js';
export * from './types.js';
