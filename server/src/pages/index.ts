export { makePage } from './service.js';
