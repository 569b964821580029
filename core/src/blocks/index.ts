export * from './definition.js';
export * from './registry.js';
