export * from './context.js';
export * from './parts.js';
export * from './page.js';
export * from './block.js';
