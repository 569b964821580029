export { saveDraft } from './service.js';
