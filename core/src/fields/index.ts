export * from './result.js';
export * from './link.js';
export * from './rich-text.js';
export * from './picture-use.js';
export * from './fields.js';
export * from './names.js';
export * from './robots.js';
export * from './types.js';
