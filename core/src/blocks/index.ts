export * from './names.js';
export * from './definition.js';
export * from './registry.js';
export * from './difference.js';
