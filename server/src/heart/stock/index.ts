export { stockHeld } from './held.js';
export * from './leading.js';
export * from './store.js';
export * from './uses.js';
