export * from './robots.js';
export * from './root-files.js';
