export * from './settings.mjs';
export * from './blobs.js';
export * from './query.js';
export * from './host-routes.js';
export * from './spool.js';
export * from './database.js';
export * from './edge-questions.js';
export { planOfFormer, type FormerAnswer, type FormerPlan } from './migrations/former-plans.js';
