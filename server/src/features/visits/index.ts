export { answersBesidesPages, askedBesidesPages, choices, dailyVisits, lastDayVisited, visitSums } from './store.js';
