export * from './place.js';
export * from './evaluate.js';
export * from './causes.js';
export * from './apart.js';
export { sayChannelValue } from './say.js';
export { minorUnits, sourcesFor } from './sources.js';
