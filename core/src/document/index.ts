export * from './result.js';
export * from './link.js';
export * from './rich-text.js';
export * from './fields.js';
export * from './page-document.js';
export * from './edit.js';
export * from './starts.js';
