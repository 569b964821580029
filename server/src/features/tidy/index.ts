export { tidy, tidyWork } from './work.js';
