export * from './context.js';
export * from './parts.js';
