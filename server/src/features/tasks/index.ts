export { endsWork, tellOfEnds } from './ends.js';
export { remindersWork, remindOfDue } from './service.js';
