export * from './resolve.js';
export * from './unit.js';
export * from './merged.js';
export * from './foresee.js';
