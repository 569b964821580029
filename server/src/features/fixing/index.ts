export { Judge, judgementWork } from './judgement.js';
