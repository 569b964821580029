export { judge } from './judge.js';
export { release, undo, undoRefusal, rederiveClaims } from './service.js';
export {
  approvalsWanted,
  insertRelease,
  lockKey,
  releaseByKey,
  draftStates,
  freezeDrafts,
  namesOfPages,
  pagesOfReleases,
  referrersOf,
  releaseById,
  releasesOfPage,
  revisionNumbers,
  revisionsById,
  undosOf,
  zoneOf,
  type RevisionRow,
} from './store.js';
