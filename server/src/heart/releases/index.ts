export { judge } from './judge.js';
export { release } from './service.js';
export { undo, undoRefusal } from './undo.js';
export { rederiveClaims } from './write.js';
export { lockKey } from './lock-store.js';
export { draftStates, freezeDrafts, revisionNumbers, revisionsById, type RevisionRow } from './revision-store.js';
export {
  approvalsWanted,
  insertRelease,
  releaseByKey,
  namesOfPages,
  pagesOfReleases,
  referrersOf,
  releaseById,
  releasesOfPage,
  undosOf,
  zoneOf,
} from './store.js';
