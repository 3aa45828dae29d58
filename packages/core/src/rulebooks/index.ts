export * from './model.js';
export * from './value.js';
export * from './typed.js';
export * from './from-schema.js';
export * from './schema.js';
export * from './compare.js';
export * from './exchange.js';
export * from './small.js';
