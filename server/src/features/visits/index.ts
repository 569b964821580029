export { answersBesidesPages, dailyVisits, lastDayVisited, visitSums } from './store.js';
