export * from './text-file.js';
export * from './mapping.js';
export * from './cells.js';
export * from './settings.js';
export * from './grid-edits.js';
