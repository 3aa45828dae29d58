export * from './formats/index.js';
export * from './difference.js';
export { type FeedFormat, feedFormats } from '../rulebooks/index.js';
