export { copyIn } from './service.js';
export { insertCopies, insertDrafts } from './store.js';
