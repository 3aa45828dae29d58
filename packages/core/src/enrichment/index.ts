export * from './model.js';
export { compileExtractor } from './extract.js';
export * from './sought.js';
