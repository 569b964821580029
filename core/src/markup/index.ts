export * from './context.js';
export * from './parts.js';
export * from './apart.js';
