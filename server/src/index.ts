export { buildApp, type AppParts } from './http/app.js';
export { EventHub } from './events/index.js';
export { publishPlans, publishReleases, publishingWork, PageFiles, type Publisher } from './publishing/index.js';
export { WorkEngine } from './work/index.js';
export { release, undo } from './releases/index.js';
export { hashPassword } from './sessions/index.js';
export type { Context } from './database/context.js';
export { verifyPortfolio } from './verify/index.js';
export { siteAddressesOf } from './plans/index.js';
