/** Views of goods held in memory: columns, conditions over them, and orders that are kept up. */
export { Bits } from './bits.js';
export { Column, type Key } from './column.js';
export { comparedRows, matchingRows } from './matching.js';
export { Order, type Rank, comparing } from './order.js';
