export * from './model.js';
export { compileExtractor } from './extract.js';
