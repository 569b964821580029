export { enqueuePublish, openQueue } from './queue.js';
export { writeThemeFiles, fileHref } from './files.js';
export { publishPlans, publishReleases, type Publisher } from './service.js';
export { PublishWorker } from './jobs.js';
