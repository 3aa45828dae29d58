export * from './reading.js';
export { parseRows, readDelimited, type DelimitedRow } from './delimited.js';
export * from './detect.js';
export * from './flatten.js';
export * from './json.js';
export * from './xml.js';
export * from './linked.js';
export * from './workbook.js';
export * from './write.js';
