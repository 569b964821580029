export { register } from './service.js';
export { titlesAt } from './store.js';
