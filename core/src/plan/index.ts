export * from './ids.js';
export * from './types.js';
export * from './claims.js';
export * from './paint.js';
export * from './move.js';
export * from './undo.js';
export * from './state.js';
export * from './difference.js';
