export { enqueuePublish, openQueue } from './queue.js';
export { PageFiles, fileHref } from './files.js';
export { readyYears } from './years.js';
export { publishPlans, publishReleases, type Publisher } from './service.js';
export { PublishWorker } from './jobs.js';
