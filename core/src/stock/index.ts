export * from './values.js';
export * from './stock.js';
