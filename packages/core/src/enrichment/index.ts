export * from './model.js';
export { compileExtractor } from './extract.js';
export * from './sought.js';
export * from './gather.js';
export * from './compose.js';
export * from './proof/index.js';
