/** Causes: ranked by what they unlock, in words, and how they are mended. */
export * from './mend.js';
export * from './rank.js';
export * from './words.js';
