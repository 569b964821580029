export * from './menus.js';
export * from './parts.js';
export * from './standing.js';
export * from './part-starts.js';
export * from './values.js';
export * from './profile.js';
export * from './stock.js';
