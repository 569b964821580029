export { addressCheck, makePage } from './service.js';
export { pageName, saveLabels } from './store.js';
export { seen } from './seen.js';
