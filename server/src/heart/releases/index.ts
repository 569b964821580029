export { judge } from './judge.js';
export { Shelves } from './shared.js';
export { release, releaseOfKey } from './service.js';
export { undo } from './undo.js';
export { summaryOfRow, writePlan } from './fault-words.js';
export { historyOf, undoRefusal } from './history.js';
export { rederiveClaims } from './write.js';
export { draftStates, freezeDrafts, revisionNumbers, revisionsById, type RevisionRow } from './revision-store.js';
export {
  approvalsWanted,
  namesOfPages,
  pagesOfReleases,
  referrersOf,
  releaseById,
  releasesById,
  zoneOf,
} from './store.js';
export { keepZonesOf, wallZonesOf } from './zones.js';
