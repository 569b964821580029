export * from './parts.js';
export * from './standing.js';
export * from './values.js';
export * from './profile.js';
export * from './stock.js';
