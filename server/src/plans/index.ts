export * from './store.js';
export * from './neighbourhood.js';
