export * from './place.js';
export * from './drawing.js';
