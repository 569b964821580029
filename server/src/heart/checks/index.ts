export { checkDrafts, keepPlanFindings } from './service.js';
export { findingCounts, findingsOfPage } from './store.js';
