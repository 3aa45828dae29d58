export * from './detect.js';
export * from './write.js';
