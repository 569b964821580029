export * from './text-file.js';
export * from './mapping.js';
