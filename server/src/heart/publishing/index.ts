export { PageFiles, fileHref } from './files.js';
export { healLacks } from './heal.js';
export { filesAskedFor, openPublished } from './open.js';
export { openPlans, type Publisher } from './publication.js';
export { publishPlans, publishReleases } from './service.js';
export { openReleases } from './store.js';
export { markOut } from './out.js';
export { titleOn } from './surroundings.js';
export { PUBLICATION, publishingWork } from './work.js';
