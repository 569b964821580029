export { dailyVisits } from './store.js';
