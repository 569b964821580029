export * from './from-page.js';
export * from './gaps.js';
export * from './graph.js';
export * from './price.js';
