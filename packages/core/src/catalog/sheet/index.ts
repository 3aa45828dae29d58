export * from './model.js';
export * from './clipboard.js';
export * from './place.js';
export * from './changes.js';
export * from './find.js';
export * from './sum.js';
export * from './clean-ups/index.js';
