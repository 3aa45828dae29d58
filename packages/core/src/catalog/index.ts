export * from './dictionary.js';
export * from './product.js';
