export { replay, type Report } from './replay.js';
export { fillLarge, LARGE } from './large.js';
