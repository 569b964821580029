export * from './instant.js';
export * from './interval.js';
export * from './zone.js';
export * from './words.js';
