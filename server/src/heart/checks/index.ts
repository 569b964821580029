export { checkDrafts, keepPlanFindings } from './service.js';
export { findingCounts, findingsOfPage, tinyPictures } from './store.js';
