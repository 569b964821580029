export * from './store.js';
export * from './claims.js';
export * from './neighbourhood.js';
export * from './cells.js';
