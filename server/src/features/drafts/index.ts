export { saveDraft } from './service.js';
export { thinStates } from './states.js';
