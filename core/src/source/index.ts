export * from './tree.js';
export * from './cleaned.js';
export * from './pasted.js';
export * from './rich-html.js';
export * from './blocks-from-html.js';
export * from './block-html.js';
