export * from '../markup/index.js';
export * from './page.js';
export * from './block.js';
