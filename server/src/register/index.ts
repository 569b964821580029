export { register } from './service.js';
