export * from './columns.js';
export * from './table.js';
export * from './moment.js';
export * from './row.js';
export { foundRows, prefixDistance } from './find.js';
export * from './view.js';
export * from './question.js';
export * from './difference.js';
export * from './marks.js';
