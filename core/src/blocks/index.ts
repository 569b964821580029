export * from '../fields/names.js';
export * from './definition.js';
export * from './registry.js';
