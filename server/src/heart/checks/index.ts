export { checkDrafts, keepFindings } from './service.js';
export {
  ACCEPTED,
  acceptedOf,
  findingCounts,
  findingsOfPage,
  SEVERITIES,
  severitiesOf,
  takeAsSites,
  tinyPictures,
} from './store.js';
