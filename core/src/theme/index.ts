export * from './themes.js';
export * from './stylesheet.js';
