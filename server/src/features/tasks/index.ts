export { remindersWork, remindOfDue } from './service.js';
