export { newStock, saveStock } from './service.js';
