export * from './types.js';
export * from './table.js';
export * from './resolve.js';
export * from './flips.js';
export * from './given.js';
export * from './problems.js';
export * from './sitemap.js';
