export * from './blocks/index.js';
export * from './carry.js';
export * from './model.js';
export * from './rules/index.js';
export * from './steps/index.js';
export * from './touched.js';
