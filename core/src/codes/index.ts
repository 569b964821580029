export * from './code.js';
export * from './around.js';
export * from './consent.js';
export * from './script.js';
