export * from './place.js';
export * from './evaluate.js';
export * from './causes.js';
export { type Asked, type Feeding, type OwnKind, askedIn, fillFor, fillsFor, ownKind } from './asked.js';
export * from './alike.js';
export * from './apart.js';
export { comparables, variantLookup } from './lookup.js';
export { pictureSources, sourcesFor } from './sources.js';
export * from './suggest-fills.js';
