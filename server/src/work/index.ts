export { doAll, regularWork, tellWork, WORK_CHANNEL, type Work } from './kind.js';
export { WorkEngine } from './engine.js';
export { isDiskTrouble, isTrouble } from './trouble.js';
