export * from './language.js';
export * from './length.js';
export { type Span } from './model.js';
export * from './repeated.js';
export * from './spelling.js';
