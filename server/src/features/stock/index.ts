export { newStock } from './service.js';
