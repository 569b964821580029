export { stockHeld } from './held.js';
export * from './leading.js';
export * from './metadata.js';
export * from './store.js';
export * from './uses.js';
