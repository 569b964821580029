export { doAll, regularWork, tellWork, WORK_CHANNEL, type Work } from './kind.js';
export { WorkEngine } from './engine.js';
export { isTrouble } from './trouble.js';
