export { firstStart, prepareIn } from './service.js';
