export * from '../markup/index.js';
export * from './page.js';
export * from './context.js';
export { blockHtml, blocksHtml } from './section.js';
export { isRightToLeft } from '../blocks/languages.js';
export * from './block.js';
export * from './site-frame.js';
export { frameScript } from './frame-script.js';
