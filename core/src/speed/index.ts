export * from './weight.js';
export * from './load.js';
