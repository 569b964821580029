export * from './fonts.js';
export * from './themes.js';
export * from './contrast.js';
export * from './from-json.js';
export * from './own-css.js';
export * from './stylesheet.js';
