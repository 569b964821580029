export * from './result.js';
export * from './link.js';
export * from './rich-text.js';
export * from './fields.js';
export * from './page-document.js';
export * from './difference.js';
export * from './edit.js';
export * from './map.js';
