export { enqueuePublish, openQueue } from './queue.js';
export { PageFiles, fileHref } from './files.js';
export { readyYears } from './years.js';
export { openPlans, type Publisher } from './publication.js';
export { publishPlans, publishReleases } from './service.js';
export { openReleases } from './store.js';
export { PublishWorker } from './jobs.js';
