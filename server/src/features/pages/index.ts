export { arrange } from './arrange.js';
export { addressCheck, makePage } from './service.js';
export { lockArranged, pageName, saveLabels } from './store.js';
export { seen } from './seen.js';
