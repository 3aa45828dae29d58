export * from './model.js';
export * from './fit.js';
