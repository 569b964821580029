export * from './pattern.js';
export * from './schedule.js';
export * from './dates.js';
