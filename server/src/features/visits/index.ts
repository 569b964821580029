export { answersBesidesPages, askedBesidesPages, dailyVisits, lastDayVisited, visitSums } from './store.js';
