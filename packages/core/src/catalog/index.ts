export * from './dictionary.js';
export * from './product.js';
export * from './family-title.js';
export * from './complete.js';
export * from './words/index.js';
export * from './variants/index.js';
export * from './sheet/index.js';
export * from './pictures.js';
