export { firstLink } from './service.js';
