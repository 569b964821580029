export { saveDraft } from './service.js';
export { thinStates } from './states.js';
export { draftsToChange, writeDrafts, type Seen } from './many-drafts.js';
export { keepStates } from './states.js';
