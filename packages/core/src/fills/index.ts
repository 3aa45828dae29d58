export * from './model.js';
export * from './steps/index.js';
