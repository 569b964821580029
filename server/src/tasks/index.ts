export { remindOfDue } from './service.js';
