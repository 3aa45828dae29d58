export * from './resolve.js';
export * from './unit.js';
