export * from '../fields/names.js';
export * from './definition.js';
export * from './appearance.js';
export * from './languages.js';
export * from './registry.js';
export * from './piece/looks.js';
